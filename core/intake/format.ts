import { UserProblem } from '../document';
import type { ModelFormat } from './model';
import { PICTURE_ENDINGS } from './sources';

const NAMES: Record<ModelFormat, string> = {
  step: 'STEP',
  iges: 'IGES',
  brep: 'BREP',
  stl: 'STL',
  obj: 'OBJ',
  ply: 'PLY',
  '3mf': '3MF',
  fbx: 'FBX',
  dae: 'DAE',
  gltf: 'glTF',
  glb: 'GLB',
  zip: 'zip',
};

/** Formats by the end of the name; those that share one are told apart by their bytes. */
const ENDINGS: Record<string, ModelFormat> = {
  step: 'step',
  stp: 'step',
  iges: 'iges',
  igs: 'iges',
  brep: 'brep',
  brp: 'brep',
  stl: 'stl',
  obj: 'obj',
  ply: 'ply',
  '3mf': '3mf',
  fbx: 'fbx',
  dae: 'dae',
  gltf: 'gltf',
  glb: 'glb',
  zip: 'zip',
};

/** What can be brought in, for people. */
export const FORMAT_LIST = 'STEP, IGES, BREP, STL, OBJ, PLY, 3MF, FBX, DAE, glTF or GLB file, or a zip of these';

/** Ends of names that a file dialog offers: models and what they name. */
export const ACCEPTED = [...Object.keys(ENDINGS), 'mtl', 'bin', ...PICTURE_ENDINGS]
  .map((ending) => `.${ending}`)
  .join();

/** Largest file that is read. */
export const MOST_FILE_BYTES = 1_000_000_000;

/**
 * Tells a file's format from its first bytes; the name only decides where the bytes allow several.
 * @throws UserProblem where it is empty, too large or none of the formats
 */
export function detectFormat(bytes: Uint8Array, fileName: string): ModelFormat {
  if (bytes.length === 0)
    throw new UserProblem('file-empty', `"${fileName}" is empty (0 bytes). Export it again from the CAD program.`, 422);
  if (bytes.length > MOST_FILE_BYTES) {
    throw new UserProblem(
      'file-too-large',
      `"${fileName}" is larger than the 1 GB that can be opened. Export fewer parts, or with less detail.`,
      413,
    );
  }
  const extension = /\.([a-z0-9]+)$/i.exec(fileName)?.[1]?.toLowerCase() ?? '';
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 4096));
  if (head.startsWith('glTF')) return 'glb';
  // A 3MF file is a zip archive by its bytes, so that only its name or what is in it tells.
  if (head.startsWith('PK\x03\x04')) return extension === '3mf' || /3D\/3dmodel\.model/.test(head) ? '3mf' : 'zip';
  if (/^Kaydara FBX Binary|^; FBX \d/.test(head)) return 'fbx';
  if (/^ply\r?\n/.test(head)) return 'ply';
  if (/^\s*(CASCADE Topology|DBRep_DrawableShape)/.test(head)) return 'brep';
  if (/^.{72}S {0,6}\d+\s*$/m.test(head.slice(0, 84))) return 'iges';
  if (/<COLLADA\b/.test(head)) return 'dae';
  if (/^\s*\{/.test(head) && (extension === 'gltf' || /"asset"\s*:/.test(head))) return 'gltf';
  if (/^\s*ISO-10303-21/.test(head)) return 'step';
  if (bytes.length >= 84) {
    const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
    if (84 + count * 50 === bytes.length) return 'stl';
  }
  if (/^\s*solid\b/.test(head) && /\b(facet|endsolid)\b/.test(head)) return 'stl';
  if (
    /^\s*(#|v |vn |o |g |mtllib |usemtl |s )/m.test(head) &&
    /^v\s+[-\d.]/m.test(new TextDecoder('latin1').decode(bytes.subarray(0, 1 << 20)))
  )
    return 'obj';
  const claimed = ENDINGS[extension];
  // A binary STL whose count lies is still read: its triangles are where they always are.
  if (extension === 'stl' && bytes.length > 134) return 'stl';
  if (claimed)
    throw new UserProblem(
      'file-broken',
      `"${fileName}" is named like a ${NAMES[claimed]} file but does not begin like one. It may be damaged or wrongly named; export it again.`,
      422,
    );
  throw new UserProblem(
    'format-unknown',
    `"${fileName}" is in a form that cannot be read. Choose a ${FORMAT_LIST}.`,
    415,
  );
}
