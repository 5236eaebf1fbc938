import type { Finding, Mend } from '../document';
import {
  allNear,
  boundsOfPositions,
  creaseFaces,
  countUp,
  creaseNormals,
  faceNormals,
  findOrientation,
  gatherPlaces,
  isEmpty,
  lookedUp,
  markedSides,
  regions,
  shells,
  sidesOf,
  triangleNormals,
  UNSOUND,
  weldPositions,
  type Regions,
  type Sides,
  type TriangleMesh,
} from '../geometry';

/** What was found in one mesh, as counts; 0 where nothing was. */
export interface Findings extends Record<Finding, number> {
  /** Triangles that name corners which do not exist. */
  range: number;
  /** Triangles with corners without a finite place. */
  infinite: number;
  /** Triangles without area. */
  flat: number;
  /** Triangles that are there twice. */
  duplicates: number;
  /** Triangles that faced otherwise than their neighbours. */
  mixed: number;
  /** Triangles of shells that were inside out. */
  inverted: number;
  /** Vertices that stood on another alike one. */
  unwelded: number;
  /** Normals that were missing, no directions, or pointed inwards. */
  normals: number;
  /** Sides of triangles at which the surface ends; nothing is done about them. */
  open: number;
}

/** Which mend changes what a finding counts; none for what is only told or cannot stay. */
export const MEND_OF: Partial<Record<Finding, Mend>> = {
  duplicates: 'duplicates',
  mixed: 'orientation',
  inverted: 'orientation',
  unwelded: 'weld',
  normals: 'normals',
};

export interface MendOptions {
  /** The mesh comes from a solid: its triangles agree and its normals are those of the surface. */
  exact: boolean;
  /** Radians between neighbouring triangles from which an edge is sharp. */
  crease: number;
  /** Mends that are left out. */
  leave: ReadonlySet<Mend>;
}

/** Vertices count as one place within this part of the mesh's extent. */
const WELD = 1e-7;
/** A mesh with more faces than this for its triangles is no thing of faces; its loose shells stand in. */
const MOST_FACES = { count: 4096, share: 0.5 };

const nothing = (): Findings => ({
  range: 0,
  infinite: 0,
  flat: 0,
  duplicates: 0,
  mixed: 0,
  inverted: 0,
  unwelded: 0,
  normals: 0,
  open: 0,
});

/** Takes out of a mesh what would break or spoil everything after it, and says what that was. */
export function mendMesh(mesh: TriangleMesh, options: MendOptions): { mesh: TriangleMesh; findings: Findings } {
  const findings = nothing();
  const { mesh: clean, planes } = soundTriangles(mesh, findings);
  if (clean.indices.length === 0) return { mesh: clean, findings };
  if (options.exact && volumeOf(clean) >= 0 && usableNormals(clean)) return { mesh: clean, findings };
  return mendSurface(clean, planes, options, findings);
}

/** @param given normals of the triangles */
function mendSurface(
  source: TriangleMesh,
  given: Float32Array,
  { crease, leave }: MendOptions,
  findings: Findings,
): { mesh: TriangleMesh; findings: Findings } {
  let mesh = source;
  let planes = given;
  const vertices = mesh.positions.length / 3;
  let count: number;
  let places: Uint32Array | null = null;
  let onePlaceEach = mesh.positions;
  let corners: Uint32Array;
  let sides: Sides;
  if (mesh.normals.length === 0 && !mesh.uvs && !leave.has('weld')) {
    // Loose triangles become one surface; vertices with coordinates of their own stay apart.
    ({ mesh, planes, sides } = joinLoose(mesh, planes));
    corners = mesh.indices;
    count = mesh.positions.length / 3;
  } else {
    const welded = weldPositions(mesh.positions, extentOf(mesh) * WELD);
    ({ count } = welded);
    if (count < vertices) ({ places, positions: onePlaceEach } = welded);
    corners = places ? lookedUp(mesh.indices, places) : mesh.indices;
    sides = sidesOf(corners);
  }
  const twice = findTwice(corners, sides.likeTwins);
  if (twice.count > 0) {
    findings.duplicates = twice.count;
    if (!leave.has('duplicates')) {
      mesh = keepTriangles(mesh, (t) => twice.marks[t] === 0);
      planes = faceNormals(mesh.positions, mesh.indices);
      corners = places ? lookedUp(mesh.indices, places) : mesh.indices;
      sides = sidesOf(corners);
    }
  }
  const { across } = sides;
  findings.open = sides.open.length;
  const creased = mesh.faces ? undefined : creaseFaces(planes, corners, across, crease);
  const found = findOrientation(mesh.positions, mesh.indices, corners, sides, regions(across, creased));
  findings.mixed = found.mixed;
  findings.inverted = found.inverted;
  if (!leave.has('orientation') && found.mixed + found.inverted > 0) {
    // The sides of a turned triangle are passed the other way round: 0 and 2 change places, 1 stays.
    mesh = { ...mesh, indices: mesh.indices.slice() };
    turnOver(mesh.indices, found.turned);
    if (places) turnOver(corners, found.turned);
    else corners = mesh.indices;
    turnSides(across, found.turned);
    turnPlanes(planes, found.turned);
  }
  const faces = mesh.faces ?? fewFaces(creased!, corners, count);
  const judged =
    mesh.normals.length > 0 ? judgeNormals(mesh, planes, leave.has('orientation') ? null : found.turned) : null;
  findings.normals = judged ? judged.against + judged.missing : 0;
  if (judged && judged.missing === 0 && !leave.has('normals')) mesh = { ...mesh, normals: judged.normals };
  if (!judged || judged.missing > 0) {
    findings.unwelded = mesh.uvs ? 0 : vertices - count;
    if (leave.has('weld')) {
      mesh = looseTriangles(mesh);
      corners = mesh.indices;
    } else if (places && !mesh.uvs) mesh = { ...mesh, positions: onePlaceEach, indices: corners };
    const made = creaseNormals(
      mesh.positions,
      mesh.indices,
      corners,
      leave.has('weld') ? corners.length : count,
      crease,
      planes,
    );
    const { positions, normals, indices } = made;
    return {
      mesh: { positions, normals, indices, faces, ...(mesh.uvs ? { uvs: gather(mesh.uvs, made.sources, 2) } : {}) },
      findings,
    };
  }
  if (!places) return { mesh: { ...mesh, faces }, findings };
  const alike = mergeAlike(mesh, places, count);
  findings.unwelded = mesh.positions.length / 3 - alike.sources.length;
  if (leave.has('weld') || findings.unwelded === 0) return { mesh: { ...mesh, faces }, findings };
  return {
    mesh: {
      positions: gather(mesh.positions, alike.sources, 3),
      normals: gather(mesh.normals, alike.sources, 3),
      indices: mesh.indices.map((vertex) => alike.numbers[vertex]!),
      faces,
      ...(mesh.uvs ? { uvs: gather(mesh.uvs, alike.sources, 2) } : {}),
    },
    findings,
  };
}

/**
 * The mesh without triangles that cannot be drawn, and without coordinates and normals that do not fit it; and the normals of its
 * triangles.
 */
function soundTriangles(mesh: TriangleMesh, findings: Findings): { mesh: TriangleMesh; planes: Float32Array } {
  const { positions, indices } = mesh;
  const vertices = Math.floor(positions.length / 3);
  const { planes, marks, unsound } = triangleNormals(positions, indices);
  if (unsound > 0) {
    for (let t = 0; t < marks.length; t++) {
      if (marks[t] === UNSOUND.range) findings.range++;
      else if (marks[t] === UNSOUND.infinite) findings.infinite++;
      else if (marks[t] === UNSOUND.flat) findings.flat++;
    }
  }
  const kept = unsound === 0 && indices.length % 3 === 0;
  const sound = kept ? mesh : keepTriangles(mesh, (t) => marks[t] === 0);
  const { uvs, normals } = sound;
  const placed = allNear(positions) ? positions : positions.map((v) => (Math.abs(v) < 1e12 ? v : 0));
  return {
    mesh: {
      positions: placed,
      normals: normals.length === positions.length ? normals : new Float32Array(),
      indices: sound.indices,
      ...(sound.faces ? { faces: sound.faces } : {}),
      ...(uvs && uvs.length === vertices * 2 && uvs.every(Number.isFinite) ? { uvs } : {}),
    },
    planes: kept ? planes : faceNormals(placed, sound.indices),
  };
}

function keepTriangles(mesh: TriangleMesh, keep: (triangle: number) => boolean): TriangleMesh {
  const indices = new Uint32Array(mesh.indices.length);
  const faces = mesh.faces && new Uint32Array(mesh.faces.length);
  let end = 0;
  for (let t = 0; t < Math.floor(mesh.indices.length / 3); t++) {
    if (!keep(t)) continue;
    for (let k = 0; k < 3; k++) indices[end * 3 + k] = mesh.indices[t * 3 + k]!;
    if (faces) faces[end] = mesh.faces![t]!;
    end++;
  }
  return { ...mesh, indices: indices.slice(0, end * 3), ...(faces ? { faces: faces.slice(0, end) } : {}) };
}

/** Marks triangles whose three places another one before them has, whichever way round. @param candidates triangles that may */
function findTwice(corners: Uint32Array, candidates: Uint32Array): { marks: Uint8Array; count: number } {
  const marks = new Uint8Array(corners.length / 3);
  const size = 1 << Math.max(4, Math.ceil(Math.log2(candidates.length * 2 + 1)));
  const slots = new Uint32Array(size);
  const sorted = new Uint32Array(candidates.length * 3);
  let count = 0;
  candidates.forEach((t, number) => {
    const places = corners.slice(t * 3, t * 3 + 3).sort();
    const [a, b, c] = [places[0]!, places[1]!, places[2]!];
    sorted.set(places, number * 3);
    let slot = ((Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35)) >>> 0) & (size - 1);
    for (; slots[slot] !== 0; slot = (slot + 1) & (size - 1)) {
      const other = (slots[slot]! - 1) * 3;
      if (sorted[other] === a && sorted[other + 1] === b && sorted[other + 2] === c) {
        marks[t] = 1;
        count++;
        return;
      }
    }
    slots[slot] = number + 1;
  });
  return { marks, count };
}

function turnOver(corners: Uint32Array, turned: Uint8Array): void {
  for (let t = 0; t < turned.length; t++) {
    if (!turned[t]) continue;
    const second = corners[t * 3 + 1]!;
    corners[t * 3 + 1] = corners[t * 3 + 2]!;
    corners[t * 3 + 2] = second;
  }
}

/** Sides after triangles were turned over: their first and third change places. */
function turnSides(across: Int32Array, turned: Uint8Array): void {
  const after = (side: number) => {
    const t = (side / 3) | 0;
    return turned[t] ? t * 3 + 2 - (side - t * 3) : side;
  };
  const before = across.slice();
  for (let side = 0; side < before.length; side++) {
    const other = before[side]!;
    across[after(side)] = other < 0 ? other : after(other);
  }
}

function turnPlanes(planes: Float32Array, turned: Uint8Array): void {
  for (let t = 0; t < turned.length; t++) {
    if (!turned[t]) continue;
    for (let k = t * 3; k < t * 3 + 3; k++) planes[k] = -planes[k]!;
  }
}

function fewFaces({ regions, count }: Regions, corners: Uint32Array, places: number): Uint32Array {
  const many = count > MOST_FACES.count && count > MOST_FACES.share * regions.length;
  return many ? shells(corners, places).regions : regions;
}

/**
 * Joins vertices on one place where the surface is open without that: where sides meet already, nothing is left to be joined, and
 * closed bodies that touch keep the triangles between them.
 * @param planes normals of the triangles
 */
function joinLoose(
  mesh: TriangleMesh,
  planes: Float32Array,
): { mesh: TriangleMesh; planes: Float32Array; sides: Sides } {
  const { positions, indices } = mesh;
  const sides = sidesOf(indices);
  if (sides.open.length === 0) return { mesh, planes, sides };
  const vertices = positions.length / 3;
  const atBorder = new Uint8Array(vertices);
  for (const side of sides.open) {
    atBorder[indices[side]!] = 1;
    atBorder[indices[side % 3 === 2 ? side - 2 : side + 1]!] = 1;
  }
  const border = new Uint32Array(countOnes(atBorder));
  for (let vertex = 0, k = 0; vertex < vertices; vertex++) if (atBorder[vertex]) border[k++] = vertex;
  const welded = weldPositions(gather(positions, border, 3), extentOf(mesh) * WELD);
  if (welded.count === border.length) return { mesh, planes, sides };
  // What lies inside of the surface stays; of the border, the first vertex of each place does.
  const numbers = new Uint32Array(vertices);
  const met = new Uint8Array(vertices);
  const placeNumbers = new Int32Array(welded.count).fill(-1);
  const kept = new Uint32Array(vertices - border.length + welded.count);
  let count = 0;
  for (let vertex = 0, k = 0; vertex < vertices; vertex++) {
    const place = atBorder[vertex] ? welded.places[k++]! : -1;
    if (place >= 0 && placeNumbers[place]! >= 0) {
      numbers[vertex] = placeNumbers[place]!;
      met[vertex] = met[kept[numbers[vertex]!]!] = 1;
      continue;
    }
    if (place >= 0) placeNumbers[place] = count;
    kept[count] = vertex;
    numbers[vertex] = count++;
  }
  const joined = { ...mesh, positions: gatherPlaces(positions, kept), indices: lookedUp(indices, numbers) };
  // Only a side that ends where vertices met can lie at others now.
  const changed = markedSides(indices, met);
  return {
    mesh: joined,
    planes: facesAnew(joined, planes, changed),
    sides: sidesOf(joined.indices, { sides: changed, across: sides.across }),
  };
}

/** Normals of triangles of which some have moved; those before may be changed. @param moved some of the sides of those, in their order */
function facesAnew({ positions, indices }: TriangleMesh, planes: Float32Array, moved: Uint32Array): Float32Array {
  // Where many have, all are made in less time than those are told from the others.
  if (moved.length * 8 > indices.length) return faceNormals(positions, indices);
  const corners: number[] = [];
  for (let k = 0; k < moved.length; k++) {
    const first = moved[k]! - (moved[k]! % 3);
    if (corners.at(-3) !== first) corners.push(first, first + 1, first + 2);
  }
  const made = faceNormals(
    positions,
    Uint32Array.from(corners, (corner) => indices[corner]!),
  );
  corners.forEach((corner, k) => (planes[corner] = made[k]!));
  return planes;
}

function countOnes(marks: Uint8Array): number {
  let count = 0;
  for (let k = 0; k < marks.length; k++) count += marks[k]!;
  return count;
}

/** The longest side of a mesh's box. */
function extentOf({ positions }: TriangleMesh): number {
  const box = boundsOfPositions(positions);
  return isEmpty(box) ? 0 : Math.max(...box.high.map((v, k) => v - box.low[k]!));
}

/**
 * The normals of a mesh with those turned round that point away from all of their vertex's triangles.
 * @param turned triangles that were turned over, whose normals may well turn with them
 * @returns how many are no directions, and how many pointed away without their triangles having been turned
 */
function judgeNormals(
  { normals, indices }: TriangleMesh,
  planes: Float32Array,
  turned: Uint8Array | null,
): { normals: Float32Array; missing: number; against: number } {
  const [UNUSED, AGAINST, AGAINST_TURNED, RIGHT] = [0, 1, 2, 3];
  const state = new Uint8Array(normals.length / 3).fill(UNUSED);
  for (let at = 0; at < indices.length; at++) {
    const vertex = indices[at]!;
    const triangle = (at / 3) | 0;
    const [n, p] = [vertex * 3, triangle * 3];
    const along = normals[n]! * planes[p]! + normals[n + 1]! * planes[p + 1]! + normals[n + 2]! * planes[p + 2]!;
    state[vertex] = Math.max(state[vertex]!, along > 0 ? RIGHT : turned?.[triangle] ? AGAINST_TURNED : AGAINST);
  }
  const out = normals.slice();
  let [missing, against] = [0, 0];
  for (let vertex = 0; vertex < state.length; vertex++) {
    const n = vertex * 3;
    if (state[vertex] === UNUSED) continue;
    if (!isDirection(normals[n]!, normals[n + 1]!, normals[n + 2]!)) missing++;
    else if (state[vertex] !== RIGHT) {
      if (state[vertex] === AGAINST) against++;
      for (let k = 0; k < 3; k++) out[n + k] = -out[n + k]!;
    }
  }
  return { normals: out, missing, against };
}

const isDirection = (x: number, y: number, z: number): boolean => {
  const square = x * x + y * y + z * z;
  return square > 0.25 && square < 4;
};

function usableNormals({ normals, indices, positions }: TriangleMesh): boolean {
  if (normals.length !== positions.length) return false;
  for (const vertex of indices) {
    if (!isDirection(normals[vertex * 3]!, normals[vertex * 3 + 1]!, normals[vertex * 3 + 2]!)) return false;
  }
  return true;
}

/** Six times the volume that a mesh bounds, below zero where it is inside out. */
function volumeOf({ positions: p, indices }: TriangleMesh): number {
  let volume = 0;
  const [ox, oy, oz] = [p[0]!, p[1]!, p[2]!];
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at]! * 3, indices[at + 1]! * 3, indices[at + 2]! * 3];
    const [ax, ay, az] = [p[a]! - ox, p[a + 1]! - oy, p[a + 2]! - oz];
    const [bx, by, bz] = [p[b]! - ox, p[b + 1]! - oy, p[b + 2]! - oz];
    const [cx, cy, cz] = [p[c]! - ox, p[c + 1]! - oy, p[c + 2]! - oz];
    volume += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return volume;
}

/** A mesh of which no two triangles share a vertex, without normals. */
function looseTriangles({ positions, indices, uvs }: TriangleMesh): TriangleMesh {
  return {
    positions: gather(positions, indices, 3),
    normals: new Float32Array(),
    indices: countUp(indices.length),
    ...(uvs ? { uvs: gather(uvs, indices, 2) } : {}),
  };
}

/** Vertices of one place with the same normal and coordinates become one. */
function mergeAlike(
  { positions, normals, uvs }: TriangleMesh,
  places: Uint32Array,
  count: number,
): { numbers: Uint32Array; sources: Uint32Array } {
  const vertices = positions.length / 3;
  const heads = new Int32Array(count).fill(-1);
  const chain = new Int32Array(vertices).fill(-1);
  const numbers = new Uint32Array(vertices);
  const sources = new Uint32Array(vertices);
  let end = 0;
  const differ = (a: Float32Array, i: number, j: number, width: number, by: number) => {
    for (let k = 0; k < width; k++) if (Math.abs(a[i * width + k]! - a[j * width + k]!) > by) return true;
    return false;
  };
  for (let vertex = 0; vertex < vertices; vertex++) {
    const place = places[vertex]!;
    let at = heads[place]!;
    // Places where hundreds of different vertices meet are left as they are beyond the first few.
    for (let tries = 0; at >= 0 && tries < 64; tries++, at = chain[at]!) {
      if (!differ(normals, at, vertex, 3, 1e-4) && !(uvs && differ(uvs, at, vertex, 2, 1e-6))) break;
    }
    if (at >= 0 && !differ(normals, at, vertex, 3, 1e-4) && !(uvs && differ(uvs, at, vertex, 2, 1e-6))) {
      numbers[vertex] = numbers[at]!;
      continue;
    }
    chain[vertex] = heads[place]!;
    heads[place] = vertex;
    numbers[vertex] = end;
    sources[end++] = vertex;
  }
  return { numbers, sources: sources.slice(0, end) };
}

function gather(from: Float32Array, sources: Uint32Array, width: number): Float32Array {
  const out = new Float32Array(sources.length * width);
  for (let k = 0; k < sources.length; k++) {
    for (let c = 0; c < width; c++) out[k * width + c] = from[sources[k]! * width + c]!;
  }
  return out;
}
