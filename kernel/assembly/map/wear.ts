// How near a place is to an edge of its part that stands out, or to a hollow. The edges stand in a table of the cells of a grid that
// they pass near: see EDGES_… of the layout, written by core/trace/edges.ts.

import {
  EDGE_ENTRY_SIZE,
  EDGE_SIZE,
  EDGES_CELL,
  EDGES_LISTS,
  EDGES_MASK,
  EDGES_SEGMENTS,
  EDGES_TABLE,
  MESH_EDGES,
} from '../layout';
import { latticeHash } from './noise';

const ONE: f32 = 1;

/** 1 on a sharp edge, falling to 0 at the width. @param along edges, hollows, both @param x of the place in the part's own space, mm */
export function wornAt(mesh: usize, x: f32, y: f32, z: f32, width: f32, along: u32): f32 {
  const edges = <usize>load<u32>(mesh, MESH_EDGES);
  if (edges === 0) return 0;
  const cells = ONE / load<f32>(edges, EDGES_CELL);
  const key = latticeHash(<i32>floor(x * cells), <i32>floor(y * cells), <i32>floor(z * cells), 1) | 1;
  const mask = load<u32>(edges, EDGES_MASK);
  const table = <usize>load<u32>(edges, EDGES_TABLE);
  let slot = key & mask;
  while (true) {
    const entry = table + <usize>slot * EDGE_ENTRY_SIZE;
    const found = load<u32>(entry);
    if (found === 0) return 0;
    if (found === key) {
      const list = <usize>load<u32>(edges, EDGES_LISTS) + ((<usize>load<u32>(entry, 4)) << 2);
      return worstOf(edges, list, load<u32>(entry, 8), x, y, z, width, along);
    }
    slot = (slot + 1) & mask;
  }
  return 0;
}

function worstOf(edges: usize, list: usize, count: u32, x: f32, y: f32, z: f32, width: f32, along: u32): f32 {
  const segments = <usize>load<u32>(edges, EDGES_SEGMENTS);
  let worst: f32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    const segment = segments + <usize>load<u32>(list + ((<usize>k) << 2)) * EDGE_SIZE;
    const turns = load<f32>(segment, 24);
    if ((along === 0 && turns < 0) || (along === 1 && turns > 0)) continue;
    const ax = load<f32>(segment),
      ay = load<f32>(segment, 4),
      az = load<f32>(segment, 8);
    const ex = load<f32>(segment, 12) - ax,
      ey = load<f32>(segment, 16) - ay,
      ez = load<f32>(segment, 20) - az;
    const dx = x - ax,
      dy = y - ay,
      dz = z - az;
    const t = min<f32>(1, max<f32>(0, (dx * ex + dy * ey + dz * ez) / max<f32>(1e-20, ex * ex + ey * ey + ez * ez)));
    const px = dx - t * ex,
      py = dy - t * ey,
      pz = dz - t * ez;
    const near = ONE - sqrt<f32>(px * px + py * py + pz * pz) / width;
    if (near > 0) worst = max<f32>(worst, near * min<f32>(1, abs(turns) * width));
  }
  return worst;
}
