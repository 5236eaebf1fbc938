import { DisjointSets, type Regions } from './adjacency';

/** Unit normals of triangles, xyz; nothing where a triangle has no area. */
export function faceNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(indices.length);
  for (let at = 0; at < indices.length; at += 3)
    faceNormal(positions, indices[at]!, indices[at + 1]!, indices[at + 2]!, normals, at);
  return normals;
}

/** Writes the unit normal of a triangle of three vertices. @returns whether it has an area */
export function faceNormal(
  positions: Float32Array,
  first: number,
  second: number,
  third: number,
  out: Float32Array,
  at: number,
): boolean {
  const a = first * 3;
  const b = second * 3;
  const c = third * 3;
  const ax = positions[a]!;
  const ay = positions[a + 1]!;
  const az = positions[a + 2]!;
  const ux = positions[b]! - ax;
  const uy = positions[b + 1]! - ay;
  const uz = positions[b + 2]! - az;
  const vx = positions[c]! - ax;
  const vy = positions[c + 1]! - ay;
  const vz = positions[c + 2]! - az;
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  const size = Math.sqrt(x * x + y * y + z * z);
  if (!(size > 0)) {
    out[at] = out[at + 1] = out[at + 2] = 0;
    return false;
  }
  out[at] = x / size;
  out[at + 1] = y / size;
  out[at + 2] = z / size;
  return true;
}

const dotOf = (n: Float32Array, a: number, b: number): number =>
  n[a * 3]! * n[b * 3]! + n[a * 3 + 1]! * n[b * 3 + 1]! + n[a * 3 + 2]! * n[b * 3 + 2]!;

/**
 * Numbers the faces of a mesh: regions of triangles that no crease divides. Neighbours that face opposite ways are taken as if they
 * agreed.
 * @param corners places of the triangles' corners, as welded
 * @param crease radians between neighbouring triangles from which their common side is a crease
 */
export function creaseFaces(
  faceNormal: Float32Array,
  corners: Uint32Array,
  across: Int32Array,
  crease: number,
): Regions {
  const least = Math.cos(crease);
  const sets = new DisjointSets(across.length / 3);
  for (let side = 0; side < across.length; side++) {
    const other = across[side]!;
    if (other < side) continue;
    const triangle = (side / 3) | 0;
    const next = (other / 3) | 0;
    const along = dotOf(faceNormal, triangle, next);
    if ((corners[side] === corners[other] ? -along : along) >= least) sets.join(triangle, next);
  }
  return sets.number();
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
 * Corners of one vertex with one normal stay one vertex; vertices that no triangle uses are left out.
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
  const { sums, firsts, sharp, any } = smoothSums(positions, indices, corners, places, faceNormal, least);
  const made = new SplitVertices(positions.length / 3, indices);
  const smooth = (vertex: number, place: number) => {
    if (sharp[place] === 0) made.setNormal(vertex, sums[place * 3]!, sums[place * 3 + 1]!, sums[place * 3 + 2]!);
  };
  // Of a welded mesh, places are vertices: there are six times fewer of them than corners.
  if (indices === corners) {
    for (let place = 0; place < places; place++) if (firsts[place]! >= 0) smooth(place, place);
  } else {
    for (let at = 0; at < indices.length; at++) smooth(indices[at]!, corners[at]!);
  }
  if (any) splitSharpPlaces(made, positions, indices, corners, sharp, faceNormal, least);
  return made.finish(positions);
}

/**
 * The sum of normals at each place, weighted by angles, the first corner of its first triangle, -1 for none, and which places are
 * sharp: where a triangle may be a crease away from another. Most places of most meshes are not, and their sums are all that is asked.
 */
function smoothSums(
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  places: number,
  faceNormal: Float32Array,
  least: number,
): { sums: Float32Array; firsts: Int32Array; sharp: Uint8Array; any: boolean } {
  const sums = new Float32Array(places * 3);
  const sharp = new Uint8Array(places);
  const firsts = new Int32Array(places).fill(-1);
  let any = false;
  // Within half of the crease of one triangle, all are within the crease of each other.
  const half = Math.sqrt(Math.max(0, (1 + least) / 2));
  const angles = new Float64Array(3);
  for (let at = 0; at < indices.length; at += 3) {
    cornerAngles(positions, indices, at, angles);
    const x = faceNormal[at]!;
    const y = faceNormal[at + 1]!;
    const z = faceNormal[at + 2]!;
    for (let k = 0; k < 3; k++) {
      const place = corners[at + k]!;
      const first = firsts[place]!;
      if (first < 0) firsts[place] = at;
      else if (!(faceNormal[first]! * x + faceNormal[first + 1]! * y + faceNormal[first + 2]! * z >= half)) {
        sharp[place] = 1;
        any = true;
      }
      const weight = angles[k]!;
      const sum = place * 3;
      sums[sum]! += x * weight;
      sums[sum + 1]! += y * weight;
      sums[sum + 2]! += z * weight;
    }
  }
  return { sums, firsts, sharp, any };
}

/** Gives each corner at a sharp place the mean of those triangles that are no crease away from its own. */
function splitSharpPlaces(
  made: SplitVertices,
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  sharp: Uint8Array,
  faceNormal: Float32Array,
  least: number,
): void {
  // Corners at sharp places in one list, those of one place together.
  const begins = new Uint32Array(sharp.length + 1);
  for (const place of corners) if (sharp[place] === 1) begins[place + 1]!++;
  for (let place = 0; place < sharp.length; place++) begins[place + 1]! += begins[place]!;
  const fill = begins.slice(0, sharp.length);
  const list = new Uint32Array(begins[sharp.length]!);
  const weights = new Float32Array(list.length);
  const angles = new Float64Array(3);
  for (let triangle = 0; triangle * 3 < corners.length; triangle++) {
    let known = false;
    for (let k = 0; k < 3; k++) {
      const place = corners[triangle * 3 + k]!;
      if (sharp[place] === 0) continue;
      if (!known) cornerAngles(positions, indices, triangle * 3, angles);
      known = true;
      const at = fill[place]!++;
      list[at] = triangle * 3 + k;
      weights[at] = angles[k]!;
    }
  }
  for (let place = 0; place < sharp.length; place++) {
    const from = begins[place]!;
    const to = begins[place + 1]!;
    if (to === from) continue;
    made.nextPlace();
    if (to - from > CROWD) {
      splitCrowd(made, list.subarray(from, to), weights.subarray(from, to), faceNormal, least);
      continue;
    }
    for (let a = from; a < to; a++) {
      const own = (list[a]! / 3) | 0;
      let x = 0;
      let y = 0;
      let z = 0;
      for (let b = from; b < to; b++) {
        const triangle = (list[b]! / 3) | 0;
        if (triangle !== own && !(dotOf(faceNormal, own, triangle) >= least)) continue;
        const weight = weights[b]!;
        x += faceNormal[triangle * 3]! * weight;
        y += faceNormal[triangle * 3 + 1]! * weight;
        z += faceNormal[triangle * 3 + 2]! * weight;
      }
      made.split(list[a]!, x, y, z);
    }
  }
}

/** The vertices of a mesh with their normals; more are added where corners of one vertex need different ones. */
class SplitVertices {
  private readonly vertices: number;
  private readonly out: Uint32Array<ArrayBuffer>;
  private normals: Float32Array<ArrayBuffer>;
  /** 1 for vertices that have a normal. */
  private readonly used: Uint8Array;
  /** The vertices that those beyond the mesh's own were split from, and those normals. */
  private readonly added: number[] = [];
  private readonly addedNormals: number[] = [];
  /** Where the present place's vertices begin in `added`. */
  private begin = 0;

  constructor(
    vertices: number,
    private readonly indices: Uint32Array,
  ) {
    this.vertices = vertices;
    this.out = indices.slice();
    this.normals = new Float32Array(vertices * 3);
    this.used = new Uint8Array(vertices);
  }

  /** Sets the one normal of a vertex of the mesh, of any length above zero. */
  setNormal(vertex: number, x: number, y: number, z: number): void {
    if (this.used[vertex] === 1) return;
    const size = Math.sqrt(x * x + y * y + z * z);
    this.used[vertex] = 1;
    this.normals[vertex * 3] = size > 1e-12 ? x / size : 0;
    this.normals[vertex * 3 + 1] = size > 1e-12 ? y / size : 1;
    this.normals[vertex * 3 + 2] = size > 1e-12 ? z / size : 0;
  }

  nextPlace(): void {
    this.begin = this.added.length;
  }

  /** Gives a corner a normal: its own vertex's, that of one that was split from it at this place, or a new one. */
  split(corner: number, x: number, y: number, z: number): void {
    const vertex = this.indices[corner]!;
    if (this.used[vertex] === 0) {
      this.setNormal(vertex, x, y, z);
      return;
    }
    const size = Math.sqrt(x * x + y * y + z * z);
    const [nx, ny, nz] = size > 1e-12 ? [x / size, y / size, z / size] : [0, 1, 0];
    if (alike(this.normals, vertex, nx, ny, nz)) return;
    for (let at = this.begin; at < this.added.length; at++) {
      if (this.added[at] !== vertex || !alike(this.addedNormals, at, nx, ny, nz)) continue;
      this.out[corner] = this.vertices + at;
      return;
    }
    this.out[corner] = this.vertices + this.added.push(vertex) - 1;
    this.addedNormals.push(nx, ny, nz);
  }

  finish(positions: Float32Array): CreasedMesh {
    const { vertices, added, out, used } = this;
    const numbers = new Uint32Array(vertices);
    let kept = 0;
    for (let vertex = 0; vertex < vertices; vertex++) {
      numbers[vertex] = kept;
      kept += used[vertex]!;
    }
    const sources = new Uint32Array(kept + added.length);
    if (kept === vertices && added.length === 0) {
      for (let vertex = 0; vertex < vertices; vertex++) sources[vertex] = vertex;
      return { positions, normals: this.normals, indices: out, sources };
    }
    const normals = new Float32Array(sources.length * 3);
    for (let vertex = 0; vertex < vertices; vertex++) {
      if (used[vertex] === 0) continue;
      const to = numbers[vertex]!;
      sources[to] = vertex;
      for (let k = 0; k < 3; k++) normals[to * 3 + k] = this.normals[vertex * 3 + k]!;
    }
    sources.set(added, kept);
    normals.set(this.addedNormals, kept * 3);
    if (kept < vertices) {
      for (let at = 0; at < out.length; at++)
        out[at] = out[at]! < vertices ? numbers[out[at]!]! : out[at]! - vertices + kept;
    }
    const split = new Float32Array(sources.length * 3);
    for (let vertex = 0; vertex < sources.length; vertex++) {
      const from = sources[vertex]! * 3;
      split[vertex * 3] = positions[from]!;
      split[vertex * 3 + 1] = positions[from + 1]!;
      split[vertex * 3 + 2] = positions[from + 2]!;
    }
    return { positions: split, normals, indices: out, sources };
  }
}

const alike = (normals: ArrayLike<number>, at: number, x: number, y: number, z: number): boolean =>
  Math.abs(normals[at * 3]! - x) + Math.abs(normals[at * 3 + 1]! - y) + Math.abs(normals[at * 3 + 2]! - z) < 1e-4;

/** Most corners at one place that are compared each with each. */
const CROWD = 48;

/**
 * Corners of a crowded place, by the rough direction of their triangles, so that no place takes time by the square of its corners:
 * the first triangle of each direction stands for it with the sum of their angles.
 */
function splitCrowd(
  made: SplitVertices,
  corners: Uint32Array,
  angles: Float32Array,
  faceNormal: Float32Array,
  least: number,
): void {
  const bundles = new Map<number, { triangle: number; weight: number; corners: number[] }>();
  corners.forEach((corner, at) => {
    const triangle = (corner / 3) | 0;
    const [x, y, z] = [0, 1, 2].map((k) => Math.round(faceNormal[triangle * 3 + k]! * 8) + 8) as [
      number,
      number,
      number,
    ];
    const direction = (x * 17 + y) * 17 + z;
    const bundle = bundles.get(direction) ?? { triangle, weight: 0, corners: [] };
    bundles.set(direction, bundle);
    bundle.weight += angles[at]!;
    bundle.corners.push(corner);
  });
  for (const own of bundles.values()) {
    const sum = [0, 0, 0];
    for (const { triangle, weight } of bundles.values()) {
      if (triangle !== own.triangle && !(dotOf(faceNormal, own.triangle, triangle) >= least)) continue;
      for (let k = 0; k < 3; k++) sum[k]! += faceNormal[triangle * 3 + k]! * weight;
    }
    for (const corner of own.corners) made.split(corner, sum[0]!, sum[1]!, sum[2]!);
  }
}

/** Writes the radians at the three corners of a triangle, of which `at` is the first. */
function cornerAngles(positions: Float32Array, indices: Uint32Array, at: number, out: Float64Array): void {
  const a = indices[at]! * 3;
  const b = indices[at + 1]! * 3;
  const c = indices[at + 2]! * 3;
  const ax = positions[a]!;
  const ay = positions[a + 1]!;
  const az = positions[a + 2]!;
  const bx = positions[b]!;
  const by = positions[b + 1]!;
  const bz = positions[b + 2]!;
  const cx = positions[c]!;
  const cy = positions[c + 1]!;
  const cz = positions[c + 2]!;
  const ab = (bx - ax) * (bx - ax) + (by - ay) * (by - ay) + (bz - az) * (bz - az);
  const bc = (cx - bx) * (cx - bx) + (cy - by) * (cy - by) + (cz - bz) * (cz - bz);
  const ca = (ax - cx) * (ax - cx) + (ay - cy) * (ay - cy) + (az - cz) * (az - cz);
  out[0] = angleBetween(bc, ab, ca);
  out[1] = angleBetween(ca, ab, bc);
  out[2] = Math.PI - out[0] - out[1];
}

/** Radians between two sides of a triangle by the squares of its sides, by the law of cosines. */
function angleBetween(opposite: number, m: number, n: number): number {
  const product = 2 * Math.sqrt(m * n);
  if (!(product > 0)) return 0;
  const cosine = (m + n - opposite) / product;
  return cosine >= 1 ? 0 : cosine <= -1 ? Math.PI : arcCosine(cosine);
}

/**
 * The angle of a cosine within 2e-8 radians, several times faster than the exact one
 * (Abramowitz and Stegun, Handbook of Mathematical Functions, 1964, 4.4.46).
 */
function arcCosine(cosine: number): number {
  const x = Math.abs(cosine);
  let sum = -0.0012624911;
  sum = sum * x + 0.00667009;
  sum = sum * x - 0.0170881256;
  sum = sum * x + 0.030891881;
  sum = sum * x - 0.0501743046;
  sum = sum * x + 0.0889789874;
  sum = sum * x - 0.2145988016;
  sum = sum * x + 1.570796305;
  const angle = Math.sqrt(1 - x) * sum;
  return cosine < 0 ? Math.PI - angle : angle;
}
