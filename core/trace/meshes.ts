import {
  MESH_AREA,
  MESH_CDF,
  MESH_HIGH,
  MESH_INDICES,
  MESH_LOW,
  MESH_NORMALS,
  MESH_POSITIONS,
  MESH_ROOT,
  MESH_SIZE,
  MESH_TRIANGLES,
  MESH_UVS,
} from '@zippy/kernel/layout';
import { boundsOfPositions, centreOf, type Bounds, type TriangleMesh } from '../geometry';
import type { KernelExports, KernelHeap } from '@zippy/kernel/host';

/** A mesh that stands in kernel memory with its tree. */
export interface LoadedMesh {
  at: number;
  bounds: Bounds;
  /** Largest distance of a corner from the middle of the bounds. */
  reach: number;
  /** Surface in square millimetres. */
  area: number;
  /** Width of the widest wear that its edges are ready for, mm; see edges.ts. */
  wearsWithin: number;
}

/** A mesh as it stands in kernel memory. */
export function meshIn(heap: KernelHeap, { at }: LoadedMesh): TriangleMesh {
  const { f32, u32 } = heap.views();
  const triangles = u32[(at + MESH_TRIANGLES) / 4]!;
  const from = (offset: number) => u32[(at + offset) / 4]! / 4;
  const indices = u32.slice(from(MESH_INDICES), from(MESH_INDICES) + triangles * 3);
  const corners = indices.reduce((most, v) => Math.max(most, v), -1) + 1;
  return {
    positions: f32.slice(from(MESH_POSITIONS), from(MESH_POSITIONS) + corners * 3),
    normals: f32.slice(from(MESH_NORMALS), from(MESH_NORMALS) + corners * 3),
    indices,
  };
}

/** Copies a mesh into kernel memory, builds its tree and the table from which points on its surface are chosen. */
export function loadMesh(kernel: KernelExports, heap: KernelHeap, mesh: TriangleMesh): LoadedMesh {
  const triangles = mesh.indices.length / 3;
  const at = heap.allocate(MESH_SIZE);
  const positions = heap.copy(mesh.positions);
  const normals = heap.copy(mesh.normals);
  const indices = heap.copy(mesh.indices);
  const uvs = mesh.uvs ? heap.copy(mesh.uvs) : 0;
  const { table, area } = areaTable(mesh);
  const cdf = heap.copy(table);
  // Leaves hold one to four triangles: room for the worst case is taken, what is left over is given back.
  const bound = kernel.treeBound(triangles);
  const tree = heap.allocate(bound);
  const scratch = heap.allocate(kernel.treeScratchSize(triangles));
  const used = kernel.buildMeshTree(positions, indices, triangles, tree, scratch);
  if (used > bound) throw new Error(`a tree of ${used} bytes outgrew its room`);
  heap.shrinkTo(tree + used);
  const bounds = boundsOfPositions(mesh.positions);
  const { u32, f32 } = heap.views();
  u32[(at + MESH_POSITIONS) / 4] = positions;
  u32[(at + MESH_NORMALS) / 4] = normals;
  u32[(at + MESH_INDICES) / 4] = indices;
  u32[(at + MESH_TRIANGLES) / 4] = triangles;
  u32[(at + MESH_ROOT) / 4] = tree;
  f32.set(bounds.low, (at + MESH_LOW) / 4);
  f32.set(bounds.high, (at + MESH_HIGH) / 4);
  u32[(at + MESH_CDF) / 4] = cdf;
  u32[(at + MESH_UVS) / 4] = uvs;
  f32[(at + MESH_AREA) / 4] = area;
  return { at, bounds, reach: reachOf(mesh, bounds), area, wearsWithin: 0 };
}

function reachOf({ positions }: TriangleMesh, bounds: Bounds): number {
  const [x, y, z] = centreOf(bounds);
  let most = 0;
  for (let at = 0; at < positions.length; at += 3) {
    most = Math.max(most, (positions[at]! - x) ** 2 + (positions[at + 1]! - y) ** 2 + (positions[at + 2]! - z) ** 2);
  }
  return Math.sqrt(most);
}

/** Cumulative share of each triangle in the surface, and the whole surface in mm². */
function areaTable({ positions, indices }: TriangleMesh): { table: Float32Array; area: number } {
  const table = new Float32Array(indices.length / 3);
  let area = 0;
  const sums = new Float64Array(table.length);
  for (let t = 0; t < table.length; t++) {
    const [a, b, c] = [indices[t * 3]! * 3, indices[t * 3 + 1]! * 3, indices[t * 3 + 2]! * 3];
    const [e1x, e1y, e1z] = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [number, number, number];
    const [e2x, e2y, e2z] = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [number, number, number];
    area += Math.hypot(e1y * e2z - e1z * e2y, e1z * e2x - e1x * e2z, e1x * e2y - e1y * e2x) / 2;
    sums[t] = area;
  }
  for (let t = 0; t < table.length; t++) table[t] = area > 0 ? sums[t]! / area : 1;
  return { table, area };
}
