import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';

/** Turns below this are no edges, in radians. */
const LEAST_TURN = 0.02;
/** From here on a turn is an edge even where its normals are blended. */
const HARD_TURN = 1;
/** Per mm: sharper than any width makes a difference to. */
const SHARP = 1e6;
/** Cells that edges are written into at most; beyond it they get larger. */
const MOST_ENTRIES = 3_000_000;
/** Edges that a cell lists at most. */
const MOST_LISTED = 64;

interface Mesh {
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
}

/** The same number for corners that stand in one place. */
function weld(positions: Float32Array): Uint32Array {
  const bits = new Uint32Array(positions.buffer, positions.byteOffset, positions.length);
  const count = positions.length / 3;
  let size = 16;
  while (size < count * 2) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const welded = new Uint32Array(count);
  for (let k = 0; k < count; k++) {
    let slot = (Math.imul(bits[k * 3]!, 73856093) ^ Math.imul(bits[k * 3 + 1]!, 19349663) ^ Math.imul(bits[k * 3 + 2]!, 83492791)) >>> 0; // prettier-ignore
    slot = (slot ^ (slot >>> 15)) & (size - 1);
    for (;;) {
      const other = table[slot]!;
      if (other < 0) {
        table[slot] = k;
        welded[k] = k;
        break;
      }
      const same = [0, 1, 2].every((c) => positions[other * 3 + c] === positions[k * 3 + c]);
      if (same) {
        welded[k] = other;
        break;
      }
      slot = (slot + 1) & (size - 1);
    }
  }
  return welded;
}

/**
 * Edges of a mesh along which its surface turns, seven numbers each: both ends in mm and how sharply it turns there, in radians per
 * mm; above 0 where it stands out, below in hollows. A hard edge and the rim of a sheet turn at once; where the normals are blended, as
 * on a rounding, what lies between the middles of the two triangles tells how wide the turn is.
 */
export function wearingEdges({ positions, normals, indices }: Mesh): Float32Array {
  const welded = weld(positions);
  const known = new Map<number, number>();
  const found: number[] = [];
  const corners = positions.length / 3;
  const at = (v: number, c: number) => positions[v * 3 + c]!;
  const triangles = indices.length / 3;
  const flat = new Float32Array(triangles * 4);
  for (let t = 0; t < triangles; t++) {
    const [a, b, c] = [indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!];
    const u = [0, 1, 2].map((k) => at(b, k) - at(a, k)) as [number, number, number];
    const v = [0, 1, 2].map((k) => at(c, k) - at(a, k)) as [number, number, number];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(n[0]!, n[1]!, n[2]!) || 1;
    flat.set([n[0]! / size, n[1]! / size, n[2]! / size, size], t * 4);
  }
  const add = (a: number, b: number, turns: number) =>
    found.push(at(a, 0), at(a, 1), at(a, 2), at(b, 0), at(b, 1), at(b, 2), turns);
  for (let t = 0; t < triangles; t++) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[t * 3 + k]!, indices[t * 3 + ((k + 1) % 3)]!];
      const [wa, wb] = [welded[a]!, welded[b]!];
      if (wa === wb) continue;
      const key = Math.min(wa, wb) * corners + Math.max(wa, wb);
      const other = known.get(key);
      if (other === undefined) {
        known.set(key, t * 3 + k);
        continue;
      }
      known.delete(key);
      const s = Math.floor(other / 3);
      const cosine =
        flat[t * 4]! * flat[s * 4]! + flat[t * 4 + 1]! * flat[s * 4 + 1]! + flat[t * 4 + 2]! * flat[s * 4 + 2]!;
      const turn = Math.acos(Math.min(1, Math.max(-1, cosine)));
      if (turn < LEAST_TURN) continue;
      const beyond = indices[t * 3 + ((k + 2) % 3)]!;
      const rises = [0, 1, 2].reduce((sum, c) => sum + (at(beyond, c) - at(a, c)) * flat[s * 4 + c]!, 0);
      const length = Math.hypot(at(a, 0) - at(b, 0), at(a, 1) - at(b, 1), at(a, 2) - at(b, 2));
      const apart = (flat[t * 4 + 3]! + flat[s * 4 + 3]!) / (2 * length);
      const [oa, ob] = [indices[other]!, indices[s * 3 + (((other % 3) + 1) % 3)]!];
      const blended = sameNormal(normals, a, oa, ob, welded) && sameNormal(normals, b, oa, ob, welded);
      const sharp = turn > HARD_TURN || !blended ? SHARP : turn / Math.max(1e-6, apart);
      add(a, b, rises <= 0 ? sharp : -sharp);
    }
  }
  // The rim of a sheet.
  for (const edge of known.values()) {
    const t = Math.floor(edge / 3);
    add(indices[edge]!, indices[t * 3 + (((edge % 3) + 1) % 3)]!, SHARP);
  }
  return Float32Array.from(found);
}

/** Whether a corner has one normal on both sides of an edge. */
function sameNormal(normals: Float32Array, corner: number, a: number, b: number, welded: Uint32Array): boolean {
  const other = welded[corner] === welded[a] ? a : b;
  const cosine = [0, 1, 2].reduce((sum, c) => sum + normals[corner * 3 + c]! * normals[other * 3 + c]!, 0);
  return cosine > 0.999;
}

/** The kernel's hash of a cell: `latticeHash` of kernel/assembly/map/noise.ts with seed 1. */
function cellKey(x: number, y: number, z: number): number {
  let h = (Math.imul(x, 0x8da6b343) + Math.imul(y, 0xd8163841) + Math.imul(z, 0xcb1ab31f) + 0x9e3779b9) >>> 0;
  h ^= h >>> 16;
  h = Math.imul(h, 0x21f0aaad);
  h ^= h >>> 15;
  h = Math.imul(h, 0xd35a2d97);
  return ((h ^ (h >>> 15)) | 1) >>> 0;
}

/**
 * Writes a mesh's edges into kernel memory, each into all cells within reach of it.
 * @param reach mm, the widest wear that will be asked for @returns the address; 0 where nothing wears
 */
export function loadEdges(heap: KernelHeap, mesh: Mesh, reach: number): number {
  const segments = wearingEdges(mesh);
  const count = segments.length / 7;
  if (count === 0) return 0;
  let cell = reach;
  let cells = fill(segments, cell, reach);
  while (cells === null) cells = fill(segments, (cell *= 2), reach);
  let size = 16;
  while (size < cells.size * 2) size *= 2;
  const table = new Uint32Array(size * 3);
  const lists = new Uint32Array([...cells.values()].reduce((sum, list) => sum + list.length, 0));
  let top = 0;
  for (const [key, list] of cells) {
    let slot = key & (size - 1);
    while (table[slot * 3] !== 0) slot = (slot + 1) & (size - 1);
    table.set([key, top, list.length], slot * 3);
    lists.set(list, top);
    top += list.length;
  }
  const at = heap.allocate(L.EDGES_SIZE);
  const places = [heap.copy(table), heap.copy(lists), heap.copy(segments)];
  const { f32, u32 } = heap.views();
  f32[(at + L.EDGES_CELL) / 4] = cell;
  u32[(at + L.EDGES_MASK) / 4] = size - 1;
  u32.set(places, (at + L.EDGES_TABLE) / 4);
  return at;
}

/** Numbers of the edges within reach of each cell, by its key; null where there would be too many. */
function fill(segments: Float32Array, cell: number, reach: number): Map<number, number[]> | null {
  const cells = new Map<number, number[]>();
  let entries = 0;
  // The sharpest first: a cell that is full has those that show most.
  const order = Array.from({ length: segments.length / 7 }, (_, k) => k).sort(
    (a, b) => Math.abs(segments[b * 7 + 6]!) - Math.abs(segments[a * 7 + 6]!),
  );
  const far = reach + cell * 0.87;
  for (const k of order) {
    const [ax, ay, az, bx, by, bz] = segments.subarray(k * 7, k * 7 + 6) as unknown as [number, number, number, number, number, number]; // prettier-ignore
    const low = (a: number, b: number) => Math.floor((Math.min(a, b) - reach) / cell);
    const high = (a: number, b: number) => Math.floor((Math.max(a, b) + reach) / cell);
    for (let x = low(ax, bx); x <= high(ax, bx); x++)
      for (let y = low(ay, by); y <= high(ay, by); y++)
        for (let z = low(az, bz); z <= high(az, bz); z++) {
          if (apart((x + 0.5) * cell, (y + 0.5) * cell, (z + 0.5) * cell, ax, ay, az, bx, by, bz) > far) continue;
          const key = cellKey(x, y, z);
          const list = cells.get(key);
          if (!list) cells.set(key, [k]);
          else if (list.length < MOST_LISTED) list.push(k);
          if (++entries > MOST_ENTRIES) return null;
        }
  }
  return cells;
}

/** How far a place is from a segment. */
function apart(
  x: number,
  y: number,
  z: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
): number {
  const [ex, ey, ez] = [bx - ax, by - ay, bz - az];
  const length = ex * ex + ey * ey + ez * ez;
  const along = length > 0 ? ((x - ax) * ex + (y - ay) * ey + (z - az) * ez) / length : 0;
  const t = Math.min(1, Math.max(0, along));
  return Math.hypot(x - ax - t * ex, y - ay - t * ey, z - az - t * ez);
}
