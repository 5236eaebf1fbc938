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
  const made = new SplitVertices(positions.length / 3);
  for (let place = 0; place < places; place++) {
    const [from, to] = [begins[place]!, begins[place + 1]!];
    const first = made.count;
    if (to - from > CROWD) {
      const { weights, members } = bundle(list.subarray(from, to), faceNormal, angles);
      for (const [own, corners] of members) {
        made.clear();
        for (const [triangle, weight] of weights) {
          if (triangle === own || dotOf(faceNormal, own, triangle) >= least) made.add(faceNormal, triangle, weight);
        }
        const known = new Map<number, number>();
        for (const at of corners) {
          const vertex = indices[at]!;
          const number = known.get(vertex) ?? made.vertexOf(vertex, made.count);
          known.set(vertex, number);
          out[at] = number;
        }
      }
      continue;
    }
    for (let a = from; a < to; a++) {
      const at = list[a]!;
      const own = (at / 3) | 0;
      made.clear();
      let all = true;
      for (let b = from; b < to; b++) {
        const corner = list[b]!;
        const triangle = (corner / 3) | 0;
        if (triangle === own || dotOf(faceNormal, own, triangle) >= least)
          made.add(faceNormal, triangle, angles[corner]!);
        else all = false;
      }
      out[at] = made.vertexOf(indices[at]!, first);
      // Most places have no crease: when the first corner's triangle is flat enough with all others, its normal often is all of theirs.
      if (a === from && all && flatEnough(list, from, to, faceNormal, least)) {
        for (a++; a < to; a++) out[list[a]!] = made.vertexOf(indices[list[a]!]!, first);
      }
    }
  }
  return made.finish(positions, out);
}

/** Whether all triangles at a place are within half of the crease of the first, and so within the crease of each other. */
function flatEnough(list: Uint32Array, from: number, to: number, faceNormal: Float32Array, least: number): boolean {
  const half = Math.sqrt(Math.max(0, (1 + least) / 2));
  const first = (list[from]! / 3) | 0;
  for (let at = from + 1; at < to; at++) {
    if (!(dotOf(faceNormal, first, (list[at]! / 3) | 0) >= half)) return false;
  }
  return true;
}

/** Vertices as they are split: each with the one it came from and a normal, in arrays that grow. */
class SplitVertices {
  count = 0;
  private sources: Uint32Array<ArrayBuffer>;
  private normals: Float32Array<ArrayBuffer>;
  private x = 0;
  private y = 0;
  private z = 0;

  constructor(vertices: number) {
    this.sources = new Uint32Array(vertices + 16);
    this.normals = new Float32Array(this.sources.length * 3);
  }

  clear(): void {
    this.x = this.y = this.z = 0;
  }

  add(normals: Float32Array, triangle: number, weight: number): void {
    this.x += normals[triangle * 3]! * weight;
    this.y += normals[triangle * 3 + 1]! * weight;
    this.z += normals[triangle * 3 + 2]! * weight;
  }

  /** The number of the vertex with the gathered normal; one from `known` on that is alike, or a new one. */
  vertexOf(vertex: number, known: number): number {
    const size = Math.sqrt(this.x * this.x + this.y * this.y + this.z * this.z);
    const x = size > 1e-12 ? this.x / size : 0;
    const y = size > 1e-12 ? this.y / size : 1;
    const z = size > 1e-12 ? this.z / size : 0;
    const { normals, sources } = this;
    for (let at = known; at < this.count; at++) {
      const apart =
        Math.abs(normals[at * 3]! - x) + Math.abs(normals[at * 3 + 1]! - y) + Math.abs(normals[at * 3 + 2]! - z);
      if (sources[at] === vertex && apart < 1e-4) return at;
    }
    if (this.count === sources.length) this.grow();
    this.sources[this.count] = vertex;
    this.normals[this.count * 3] = x;
    this.normals[this.count * 3 + 1] = y;
    this.normals[this.count * 3 + 2] = z;
    return this.count++;
  }

  finish(positions: Float32Array, indices: Uint32Array): CreasedMesh {
    const sources = this.sources.slice(0, this.count);
    const split = new Float32Array(this.count * 3);
    for (let k = 0; k < this.count; k++) {
      const from = sources[k]! * 3;
      split[k * 3] = positions[from]!;
      split[k * 3 + 1] = positions[from + 1]!;
      split[k * 3 + 2] = positions[from + 2]!;
    }
    return { positions: split, normals: this.normals.slice(0, this.count * 3), indices, sources };
  }

  private grow(): void {
    const [sources, normals] = [this.sources, this.normals];
    this.sources = new Uint32Array(sources.length * 2);
    this.sources.set(sources);
    this.normals = new Float32Array(this.sources.length * 3);
    this.normals.set(normals);
  }
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
  for (let at = 0; at < indices.length; at += 3) {
    const [i, j, k] = [indices[at]! * 3, indices[at + 1]! * 3, indices[at + 2]! * 3];
    const [a, b, c] = [apart(positions, j, k), apart(positions, k, i), apart(positions, i, j)];
    angles[at] = angleBetween(a, b, c);
    angles[at + 1] = angleBetween(b, c, a);
    angles[at + 2] = angleBetween(c, a, b);
  }
  return angles;
}

function apart(positions: Float32Array, a: number, b: number): number {
  const x = positions[b]! - positions[a]!;
  const y = positions[b + 1]! - positions[a + 1]!;
  const z = positions[b + 2]! - positions[a + 2]!;
  return Math.sqrt(x * x + y * y + z * z);
}

/** Radians between two sides by the length of the third, by the law of cosines. */
const angleBetween = (opposite: number, m: number, n: number): number =>
  m * n > 0 ? Math.acos(Math.min(1, Math.max(-1, (m * m + n * n - opposite * opposite) / (2 * m * n)))) : 0;
