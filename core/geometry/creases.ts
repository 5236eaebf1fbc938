import { regions } from './adjacency';

/** Unit normals of triangles, xyz; nothing where a triangle has no area. */
export function faceNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(indices.length);
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at]! * 3, indices[at + 1]! * 3, indices[at + 2]! * 3];
    const ux = positions[b]! - positions[a]!;
    const uy = positions[b + 1]! - positions[a + 1]!;
    const uz = positions[b + 2]! - positions[a + 2]!;
    const vx = positions[c]! - positions[a]!;
    const vy = positions[c + 1]! - positions[a + 1]!;
    const vz = positions[c + 2]! - positions[a + 2]!;
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[at] = x / size;
    normals[at + 1] = y / size;
    normals[at + 2] = z / size;
  }
  return normals;
}

const dotOf = (n: Float32Array, a: number, b: number): number =>
  n[a * 3]! * n[b * 3]! + n[a * 3 + 1]! * n[b * 3 + 1]! + n[a * 3 + 2]! * n[b * 3 + 2]!;

/**
 * Numbers the faces of a mesh: regions of triangles that no crease divides.
 * @param crease radians between neighbouring triangles from which their common side is a crease
 */
export function creaseFaces(
  faceNormal: Float32Array,
  across: Int32Array,
  crease: number,
): { regions: Uint32Array; count: number } {
  const least = Math.cos(crease);
  return regions(across, (side, other) => dotOf(faceNormal, (side / 3) | 0, (other / 3) | 0) >= least);
}

/** A mesh whose vertices are split where normals differ. */
export interface CreasedMesh {
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** The vertex of the mesh before that each new one stands for. */
  sources: Uint32Array;
}

/**
 * Normals that are smooth over small angles and sharp over large ones. Each corner's normal is the mean of the triangles
 * round its place that are less than the crease away from its own, weighted by their angles there
 * (Thürmer and Wüthrich, Computing Vertex Normals from Polygonal Facets, 1998).
 * Corners of one vertex with one normal stay one vertex.
 * @param corners places of the triangles' corners, as welded
 * @param places how many places there are
 */
export function creaseNormals(
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  places: number,
  crease: number,
  faceNormal = faceNormals(positions, indices),
): CreasedMesh {
  const least = Math.cos(crease);
  const angles = cornerAngles(positions, indices);
  // Corners by place, in one list with where each place's begin.
  const begins = new Uint32Array(places + 1);
  for (const place of corners) begins[place + 1]!++;
  for (let k = 0; k < places; k++) begins[k + 1]! += begins[k]!;
  const fill = begins.slice();
  const list = new Uint32Array(corners.length);
  for (let at = 0; at < corners.length; at++) list[fill[corners[at]!]!++] = at;
  const out = new Uint32Array(indices.length);
  const sources: number[] = [];
  const normals: number[] = [];
  const sum = [0, 0, 0];
  const gather = (triangle: number, weight: number) => {
    for (let k = 0; k < 3; k++) sum[k]! += faceNormal[triangle * 3 + k]! * weight;
  };
  const vertexOf = (vertex: number, known: number): number => {
    const size = Math.hypot(sum[0]!, sum[1]!, sum[2]!);
    const [x, y, z] = size > 1e-12 ? sum.map((v) => v / size) : [0, 1, 0];
    for (let at = known; at < sources.length; at++) {
      const apart =
        Math.abs(normals[at * 3]! - x!) + Math.abs(normals[at * 3 + 1]! - y!) + Math.abs(normals[at * 3 + 2]! - z!);
      if (sources[at] === vertex && apart < 1e-4) return at;
    }
    sources.push(vertex);
    normals.push(x!, y!, z!);
    return sources.length - 1;
  };
  for (let place = 0; place < places; place++) {
    const [from, to] = [begins[place]!, begins[place + 1]!];
    const first = sources.length;
    if (to - from > CROWD) {
      const { weights, members } = bundle(list.subarray(from, to), faceNormal, angles);
      for (const [own, corners] of members) {
        sum.fill(0);
        for (const [triangle, weight] of weights) {
          if (triangle === own || dotOf(faceNormal, own, triangle) >= least) gather(triangle, weight);
        }
        const known = new Map<number, number>();
        for (const at of corners) {
          const vertex = indices[at]!;
          const number = known.get(vertex) ?? vertexOf(vertex, sources.length);
          known.set(vertex, number);
          out[at] = number;
        }
      }
      continue;
    }
    for (let a = from; a < to; a++) {
      const at = list[a]!;
      const own = (at / 3) | 0;
      sum.fill(0);
      for (let b = from; b < to; b++) {
        const triangle = (list[b]! / 3) | 0;
        if (triangle === own || dotOf(faceNormal, own, triangle) >= least) gather(triangle, angles[list[b]!]!);
      }
      out[at] = vertexOf(indices[at]!, first);
    }
  }
  const split = new Float32Array(sources.length * 3);
  sources.forEach((vertex, k) => split.set(positions.subarray(vertex * 3, vertex * 3 + 3), k * 3));
  return { positions: split, normals: new Float32Array(normals), indices: out, sources: new Uint32Array(sources) };
}

/** Most corners at one place that are compared each with each. */
const CROWD = 48;

/**
 * Corners of a crowded place by the rough direction of their triangles, so that no place takes time by the square of its corners.
 * @returns the summed angle of each direction by the triangle that stands for it, and its corners
 */
function bundle(
  corners: Uint32Array,
  faceNormal: Float32Array,
  angles: Float32Array,
): { weights: Map<number, number>; members: Map<number, number[]> } {
  const standing = new Map<number, number>();
  const weights = new Map<number, number>();
  const members = new Map<number, number[]>();
  for (const at of corners) {
    const triangle = (at / 3) | 0;
    const [x, y, z] = [0, 1, 2].map((k) => Math.round(faceNormal[triangle * 3 + k]! * 8) + 8) as [
      number,
      number,
      number,
    ];
    const direction = (x * 17 + y) * 17 + z;
    const own = standing.get(direction) ?? triangle;
    standing.set(direction, own);
    weights.set(own, (weights.get(own) ?? 0) + angles[at]!);
    const list = members.get(own);
    if (list) list.push(at);
    else members.set(own, [at]);
  }
  return { weights, members };
}

/** Radians at each corner of each triangle. */
function cornerAngles(positions: Float32Array, indices: Uint32Array): Float32Array {
  const angles = new Float32Array(indices.length);
  const d = (a: number, b: number) => {
    const [p, q] = [a * 3, b * 3];
    const [x, y, z] = [
      positions[q]! - positions[p]!,
      positions[q + 1]! - positions[p + 1]!,
      positions[q + 2]! - positions[p + 2]!,
    ];
    return Math.sqrt(x * x + y * y + z * z);
  };
  for (let at = 0; at < indices.length; at += 3) {
    const [i, j, k] = [indices[at]!, indices[at + 1]!, indices[at + 2]!];
    const [a, b, c] = [d(j, k), d(k, i), d(i, j)];
    const angle = (opposite: number, m: number, n: number) =>
      m * n > 0 ? Math.acos(Math.min(1, Math.max(-1, (m * m + n * n - opposite * opposite) / (2 * m * n)))) : 0;
    angles[at] = angle(a, b, c);
    angles[at + 1] = angle(b, c, a);
    angles[at + 2] = angle(c, a, b);
  }
  return angles;
}
