import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { BufferGeometry } from 'three';
import { sayNumber, UserProblem } from '../document';
import { IDENTITY, PlaceTable, type TriangleMesh } from '../geometry';
import type { Model } from './model';
import { guessUnitOf } from './summary';

const HEADER = 84;
/** Bytes of a triangle: its normal, three corners and two spare bytes. */
const RECORD = 50;

interface Solid {
  name: string;
  mesh: TriangleMesh;
  /** Corners that stood on another one alike. */
  joined: number;
}

/** Reads STL, ascii or binary. @throws UserProblem `file-broken` */
export function readStl(bytes: Uint8Array<ArrayBuffer>, name: string): Model {
  const notes: string[] = [];
  const ascii =
    /^\s*solid\b/.test(new TextDecoder('latin1').decode(bytes.subarray(0, 512))) &&
    /\b(facet|endsolid)\b/.test(new TextDecoder('latin1').decode(bytes.subarray(0, 4096)));
  const label = name.replace(/^.*\//, '').replace(/\.[^.]*$/, '');
  const solids = (ascii ? readText(bytes, name, label, notes) : [readBinary(bytes, label, notes)]).filter(
    ({ mesh }) => mesh.indices.length > 0,
  );
  if (solids.length === 0) throw new UserProblem('file-broken', `"${name}" holds no triangles. Export it again.`, 422);
  const { unit, reason } = guessUnitOf(solids.map(({ mesh }) => mesh));
  return {
    nodes: solids.map((solid, mesh) => ({ name: solid.name, parent: -1, transform: IDENTITY, mesh, finish: null })),
    meshes: solids.map(({ mesh }) => mesh),
    finishes: [],
    pictures: [],
    unit,
    unitReason: reason,
    up: 'z',
    upReason: 'STL files are most often Z up.',
    exact: false,
    notes,
    joined: Object.fromEntries(solids.map(({ joined }, mesh) => [mesh, joined])),
  };
}

/** Facets' normals say no more than their corners do, and colours in the spare bytes have no standard: both are passed over. */
function readBinary(bytes: Uint8Array<ArrayBuffer>, label: string, notes: string[]): Solid {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const claimed = view.getUint32(HEADER - 4, true);
  const present = Math.floor((bytes.length - HEADER) / RECORD);
  if (claimed !== present && present > 0)
    notes.push(
      `The file claims ${sayNumber(claimed)} triangles and holds ${sayNumber(present)}; what it holds was read.`,
    );
  const table = new PlaceTable(present * VERTICES_FOR_TRIANGLES);
  const indices = new Uint32Array(present * 3);
  for (let triangle = 0; triangle < present; triangle++) {
    const at = HEADER + triangle * RECORD + 12;
    for (let corner = 0; corner < 3; corner++) {
      const place = at + corner * 12;
      indices[triangle * 3 + corner] = table.placeOfBits(
        view.getInt32(place, true),
        view.getInt32(place + 4, true),
        view.getInt32(place + 8, true),
      );
    }
  }
  return joinedSolid(label, table, indices);
}

/** A closed surface has about half as many vertices as triangles. */
const VERTICES_FOR_TRIANGLES = 0.55;

function joinedSolid(name: string, table: PlaceTable, indices: Uint32Array): Solid {
  const mesh = { positions: table.positions(), normals: new Float32Array(), indices };
  return { name, mesh, joined: indices.length - table.count };
}

/** A text whose last solid does not end, with that end: the triangles that are whole are read. */
function ended(bytes: Uint8Array<ArrayBuffer>, notes: string[]): Uint8Array<ArrayBuffer> {
  const tail = new TextDecoder('latin1').decode(bytes.subarray(Math.max(0, bytes.length - 4096)));
  const last = Math.max(tail.lastIndexOf('endsolid'), -1);
  if (last >= 0 && !/\bfacet\b/.test(tail.slice(last + 8).replace(/^.*$/m, ''))) return bytes;
  notes.push('The file ends before its data does; the triangles that are whole were read.');
  const end = new TextEncoder().encode('\nendsolid\n');
  const whole = new Uint8Array(bytes.length + end.length);
  whole.set(bytes);
  whole.set(end, bytes.length);
  return whole;
}

function readText(given: Uint8Array<ArrayBuffer>, name: string, label: string, notes: string[]): Solid[] {
  let geometry: BufferGeometry;
  const bytes = ended(given, notes);
  try {
    const whole = bytes.byteLength === bytes.buffer.byteLength;
    geometry = new STLLoader().parse((whole ? bytes : bytes.slice()).buffer);
  } catch {
    throw new UserProblem('file-broken', `"${name}" ends before its data does, or is damaged. Export it again.`, 422);
  }
  const positions = geometry.getAttribute('position')?.array as Float32Array | undefined;
  if (!positions) return [];
  const { groupNames } = geometry.userData as { groupNames?: string[] };
  const several = geometry.groups.length > 1;
  const groups = several ? geometry.groups : [{ start: 0, count: positions.length / 3 }];
  return groups.map(({ start, count }, k) => {
    const table = new PlaceTable((count / 3) * VERTICES_FOR_TRIANGLES);
    const indices = new Uint32Array(count);
    for (let corner = 0; corner < count; corner++) {
      const at = (start + corner) * 3;
      indices[corner] = table.placeOf(positions[at]!, positions[at + 1]!, positions[at + 2]!);
    }
    return joinedSolid((several && groupNames?.[k]) || (several ? `${label} ${k + 1}` : label), table, indices);
  });
}
