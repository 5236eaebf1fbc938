import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { BufferGeometry } from 'three';
import { UserProblem } from '../document';
import { countUp, IDENTITY, type TriangleMesh } from '../geometry';
import type { Model } from './model';
import { guessUnitOf } from './summary';

/** Reads STL, ascii or binary. @throws UserProblem `file-broken` */
export function readStl(bytes: Uint8Array<ArrayBuffer>, name: string): Model {
  const notes: string[] = [];
  let data = bytes;
  const ascii =
    /^\s*solid\b/.test(new TextDecoder('latin1').decode(bytes.subarray(0, 512))) &&
    /\b(facet|endsolid)\b/.test(new TextDecoder('latin1').decode(bytes.subarray(0, 4096)));
  if (!ascii) {
    const claimed = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
    const present = Math.floor((bytes.length - 84) / 50);
    if (present === 0) throw new UserProblem('file-broken', `"${name}" holds no triangles. Export it again.`, 422);
    if (claimed !== present) {
      notes.push(
        `The file claims ${claimed.toLocaleString('en')} triangles and holds ${present.toLocaleString('en')}; what it holds was read.`,
      );
      data = bytes.slice(0, 84 + present * 50);
      new DataView(data.buffer).setUint32(80, present, true);
    }
  }
  let geometry: BufferGeometry;
  try {
    const whole = data.byteLength === data.buffer.byteLength;
    geometry = new STLLoader().parse((whole ? data : data.slice()).buffer);
  } catch {
    throw new UserProblem('file-broken', `"${name}" ends before its data does, or is damaged. Export it again.`, 422);
  }
  const label = name.replace(/^.*\//, '').replace(/\.[^.]*$/, '');
  const solids = soupMeshes(geometry, label).filter(({ mesh }) => mesh.indices.length > 0);
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
  };
}

/** Loose triangles of a loader, solid by solid; facets' normals say no more than their corners do. */
function soupMeshes(geometry: BufferGeometry, label: string): { name: string; mesh: TriangleMesh }[] {
  const positions = geometry.getAttribute('position')?.array as Float32Array | undefined;
  if (!positions) return [];
  const { groupNames } = geometry.userData as { groupNames?: string[] };
  const whole = [{ start: 0, count: positions.length / 3 }];
  const groups = geometry.groups.length > 1 ? geometry.groups : whole;
  return groups.map(({ start, count }, k) => ({
    name: (groups.length > 1 && groupNames?.[k]) || (groups.length > 1 ? `${label} ${k + 1}` : label),
    mesh: {
      positions: groups === whole ? positions : positions.slice(start * 3, (start + count) * 3),
      normals: new Float32Array(),
      indices: countUp(count),
    },
  }));
}
