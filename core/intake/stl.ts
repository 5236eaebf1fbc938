import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { BufferGeometry } from 'three';
import { UserProblem } from '../document';
import { boundsOfPositions, IDENTITY, isEmpty, type TriangleMesh } from '../geometry';
import type { Model } from './model';
import { guessUnit } from './summary';

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
  const geometry = new STLLoader().parse(data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength));
  const mesh = soupMesh(geometry);
  if (mesh.indices.length === 0)
    throw new UserProblem('file-broken', `"${name}" holds no triangles. Export it again.`, 422);
  const box = boundsOfPositions(mesh.positions.map((v) => (Number.isFinite(v) ? v : 0)));
  const extent = isEmpty(box) ? 0 : Math.max(...box.high.map((v, k) => v - box.low[k]!));
  const { unit, reason } = guessUnit(extent);
  return {
    nodes: [{ name: name.replace(/\.[^.]*$/, ''), parent: -1, transform: IDENTITY, mesh: 0, finish: null }],
    meshes: [mesh],
    finishes: [],
    pictures: [],
    unit,
    unitReason: reason,
    up: 'z',
    upReason: 'STL files are most often Z up.',
    notes,
  };
}

/** Loose triangles of a loader as a mesh whose corners keep the file's facet normals. */
function soupMesh(geometry: BufferGeometry): TriangleMesh {
  const positions = geometry.getAttribute('position')?.array as Float32Array | undefined;
  const normals = geometry.getAttribute('normal')?.array as Float32Array | undefined;
  if (!positions) return { positions: new Float32Array(), normals: new Float32Array(), indices: new Uint32Array() };
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals ?? []),
    indices: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k),
  };
}
