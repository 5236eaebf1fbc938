import { inMeshKernel } from '@zippy/kernel/mesh';
import { numberedSets, type Regions } from './adjacency';

/** Why a triangle cannot be drawn; 0 for those that can. */
export const UNSOUND = { range: 1, infinite: 2, flat: 3 } as const;

/** Unit normals of triangles, xyz; nothing where a triangle cannot be drawn, with a byte of each that says why, and how many cannot. */
export function triangleNormals(
  positions: Float32Array,
  indices: Uint32Array,
): { planes: Float32Array; marks: Uint8Array; unsound: number } {
  const triangles = Math.floor(indices.length / 3);
  return inMeshKernel((kernel) => {
    const [places, corners] = [kernel.put(positions), kernel.put(indices)];
    const [planes, marks] = [kernel.room(triangles * 12), kernel.room(triangles)];
    const vertices = Math.floor(positions.length / 3);
    const unsound = kernel.passes.faceNormals(places, vertices, corners, triangles, planes, marks);
    return {
      planes: kernel.floats(planes, triangles * 3).slice(),
      marks: kernel.bytes(marks, triangles).slice(),
      unsound,
    };
  });
}

/** Unit normals of triangles, xyz; nothing where one has no area. */
export const faceNormals = (positions: Float32Array, indices: Uint32Array): Float32Array =>
  triangleNormals(positions, indices).planes;

/** Whether all of some numbers are finite and no farther than is drawn. */
export const allNear = (numbers: Float32Array): boolean =>
  inMeshKernel((kernel) => kernel.passes.allNear(kernel.put(numbers), numbers.length) !== 0);

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
  const triangles = across.length / 3;
  return inMeshKernel((kernel) => {
    const parent = kernel.room(triangles * 4);
    kernel.passes.eachAlone(parent, triangles);
    const [planes, own, other] = [kernel.put(faceNormal), kernel.put(corners), kernel.put(across)];
    kernel.passes.joinSmooth(planes, own, other, across.length, Math.cos(crease), parent);
    return numberedSets(kernel, parent, triangles);
  });
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
  const { normals, firsts, sharp, angles } = placeNormals(positions, indices, corners, places, faceNormal, least);
  const made = new SplitVertices(positions.length / 3, indices);
  // Of a welded mesh, places are vertices.
  if (indices === corners && normals.length === positions.length) made.setNormals(normals, firsts, sharp);
  else {
    for (let at = 0; at < indices.length; at++) {
      const place = corners[at]!;
      if (sharp[place] === 0)
        made.setNormal(indices[at]!, normals[place * 3]!, normals[place * 3 + 1]!, normals[place * 3 + 2]!);
    }
  }
  if (angles) splitSharpPlaces(made, corners, angles, sharp, faceNormal, least);
  return made.finish(positions);
}

/** What is known of places; see `placeNormals`. */
interface PlaceNormals {
  /** The mean normal of the triangles at each place, weighted by their angles there. */
  normals: Float32Array<ArrayBuffer>;
  /** 1 and the first corner of the first triangle at each place; 0 where there is none. */
  firsts: Uint32Array;
  /** 1 for places where a triangle may be a crease away from another: their means say nothing. */
  sharp: Uint8Array;
  /** Radians at the corners of all triangles; null where no place is sharp. */
  angles: Float32Array | null;
}

/** Most places of most meshes are not sharp, and their means are all that is asked. */
function placeNormals(
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  places: number,
  faceNormal: Float32Array,
  least: number,
): PlaceNormals {
  const triangles = indices.length / 3;
  return inMeshKernel((kernel) => {
    const { passes } = kernel;
    const [at, vertices] = [kernel.put(positions), kernel.put(indices)];
    const own = corners === indices ? vertices : kernel.put(corners);
    const planes = kernel.put(faceNormal);
    const [sums, firsts, sharp] = [kernel.room(places * 12, 0), kernel.room(places * 4, 0), kernel.room(places, 0)];
    const half = Math.sqrt(Math.max(0, (1 + least) / 2));
    const any = passes.sumNormals(at, vertices, own, triangles, planes, half, sums, firsts, sharp) !== 0;
    passes.directions(sums, places);
    const angles = any ? kernel.room(triangles * 12) : 0;
    if (any) passes.cornerAngles(at, vertices, triangles, angles);
    return {
      normals: kernel.floats(sums, places * 3).slice(),
      firsts: kernel.numbers(firsts, places).slice(),
      sharp: kernel.bytes(sharp, places).slice(),
      angles: any ? kernel.floats(angles, triangles * 3).slice() : null,
    };
  });
}

/** Gives each corner at a sharp place the mean of those triangles that are no crease away from its own. */
function splitSharpPlaces(
  made: SplitVertices,
  corners: Uint32Array,
  angles: Float32Array,
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
  for (let corner = 0; corner < corners.length; corner++) {
    const place = corners[corner]!;
    if (sharp[place] === 0) continue;
    const at = fill[place]!++;
    list[at] = corner;
    weights[at] = angles[corner]!;
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
  /** A copy of the corners once one of them has changed. */
  private changed: Uint32Array<ArrayBuffer> | null = null;
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
    this.normals = new Float32Array(vertices * 3);
    this.used = new Uint8Array(vertices);
  }

  /** Sets the normals of all vertices that triangles use and no crease goes through. */
  setNormals(normals: Float32Array<ArrayBuffer>, firsts: Uint32Array, sharp: Uint8Array): void {
    this.normals = normals;
    for (let vertex = 0; vertex < this.vertices; vertex++)
      this.used[vertex] = firsts[vertex] !== 0 && sharp[vertex] === 0 ? 1 : 0;
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

  private get out(): Uint32Array<ArrayBuffer> {
    return (this.changed ??= this.indices.slice());
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
    const { vertices, added, used } = this;
    const numbers = new Uint32Array(vertices);
    let kept = 0;
    for (let vertex = 0; vertex < vertices; vertex++) {
      numbers[vertex] = kept;
      kept += used[vertex]!;
    }
    const sources = new Uint32Array(kept + added.length);
    if (kept === vertices && added.length === 0) {
      for (let vertex = 0; vertex < vertices; vertex++) sources[vertex] = vertex;
      return { positions, normals: this.normals, indices: this.indices, sources };
    }
    const { out } = this;
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
