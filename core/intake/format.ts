import { UserProblem } from '../document';
import type { ModelFormat } from './model';

const NAMES: Record<ModelFormat, string> = { step: 'STEP', stl: 'STL', obj: 'OBJ', glb: 'GLB' };

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
  const claimed: ModelFormat | undefined = ({ step: 'step', stp: 'step', stl: 'stl', obj: 'obj', glb: 'glb' } as const)[
    extension as 'step'
  ];
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
    `"${fileName}" is in a form that cannot be read. Choose a STEP, STL, OBJ or GLB file.`,
    415,
  );
}
