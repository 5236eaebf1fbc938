import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { sayNumber, UserProblem } from '../document';
import { IDENTITY, type TriangleMesh } from '../geometry';
import { colorModel } from './vertexColors';
import type { Model } from './model';
import { guessUnitOf } from './summary';

/** Most vertices or faces a header may claim, beyond which the claim is taken for a lie. */
const MOST_CLAIMED = 100_000_000;

/** Reads PLY, ascii or binary, with the colours of its vertices. @throws UserProblem `file-broken` */
export function readPly(bytes: Uint8Array<ArrayBuffer>, name: string): Model {
  const broken = (why: string) => new UserProblem('file-broken', `"${name}" ${why}. Export it again.`, 422);
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
  const end = head.indexOf('end_header');
  if (end < 0) throw broken('has no end to its header');
  let claimed = 0;
  for (const [, , count] of head.slice(0, end).matchAll(/element\s+(\S+)\s+(\S+)/g)) claimed += Number(count);
  // An element takes at least a byte, written out or not.
  if (!(claimed <= Math.min(MOST_CLAIMED, bytes.length)))
    throw broken(`claims ${sayNumber(claimed)} elements, which do not fit into its ${sayNumber(bytes.length)} bytes`);
  let geometry;
  try {
    geometry = new PLYLoader().parse(bytes.slice().buffer);
  } catch {
    throw broken('ends before its data does, or its data is damaged');
  }
  const array = (of: string) => geometry.getAttribute(of)?.array as Float32Array | undefined;
  const positions = array('position') ?? new Float32Array();
  const indices = geometry.getIndex()?.array;
  if (!indices?.length) throw broken('holds points without faces, which cannot be shown');
  const uvs = array('uv');
  const mesh: TriangleMesh = {
    positions: new Float32Array(positions),
    normals: new Float32Array(array('normal') ?? []),
    indices: new Uint32Array(indices),
    // v goes up in PLY files.
    ...(uvs ? { uvs: uvs.map((v, k) => (k % 2 === 1 ? 1 - v : v)) } : {}),
  };
  const { unit, reason } = guessUnitOf([mesh]);
  const label = name.replace(/\.[^.]*$/, '');
  const colors = array('color');
  const painted = colors ? colorModel(mesh, colors, label) : null;
  return {
    nodes: painted?.nodes ?? [{ name: label, parent: -1, transform: IDENTITY, mesh: 0, finish: null }],
    meshes: [painted?.mesh ?? mesh],
    finishes: painted?.finishes ?? [],
    pictures: painted?.pictures ?? [],
    unit,
    unitReason: reason,
    up: 'z',
    upReason: 'Scans and PLY files are most often Z up.',
    exact: false,
    notes: [],
  };
}
