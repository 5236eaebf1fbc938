import { GLB_BUFFER } from '@gltf-transform/core';
import { UserProblem } from '../document';
import { findFalseClaim } from './gltfClaims';
import { findCompanion, type SourceFile } from './sources';

/** A glTF document's text with the bytes of all that it names, as its reader wants them. */
export interface GltfResources {
  json: never;
  resources: Record<string, Uint8Array<ArrayBuffer>>;
}

export const brokenGltf = (name: string, why: string): UserProblem =>
  new UserProblem('file-broken', `"${name}" cannot be read: ${why}. Export it again as GLB.`, 422);

const GLB_MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;

/**
 * Takes a GLB or glTF file apart, and finds the buffers and pictures it names among the files that came along.
 * Pictures that are missing are said and left out.
 * @throws UserProblem `file-broken`, `file-incomplete`
 */
export function gatherResources(
  bytes: Uint8Array<ArrayBuffer>,
  name: string,
  companions: readonly SourceFile[],
  notes: Set<string>,
): GltfResources {
  type Named = { uri?: string };
  const { text, binary } = takeApart(bytes, name);
  let json: { asset?: { version?: unknown }; buffers?: Named[]; images?: Named[] };
  try {
    json = JSON.parse(text) as typeof json;
  } catch {
    throw brokenGltf(name, 'its text is cut off or damaged');
  }
  if (typeof json !== 'object' || json === null) throw brokenGltf(name, 'it holds no scene');
  if (String(json.asset?.version).startsWith('1')) throw ofFirstVersion(name);
  const lie = findFalseClaim(json as object, bytes.length);
  if (lie) throw brokenGltf(name, lie);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = binary ? { [GLB_BUFFER]: binary } : {};
  const find = ({ uri }: Named): boolean => {
    if (typeof uri !== 'string' || uri.startsWith('data:')) return true;
    const path = decodePath(uri);
    const found = companions.find((each) => each.name === path) ?? findCompanion(companions, path);
    if (found) resources[uri] = found.bytes;
    return found !== undefined;
  };
  for (const buffer of Array.isArray(json.buffers) ? json.buffers : []) {
    if (find(buffer)) continue;
    throw new UserProblem(
      'file-incomplete',
      `"${name}" needs the file "${String(buffer.uri).slice(0, 100)}", which did not come along. Drop both together, or export as GLB.`,
      422,
    );
  }
  const images = Array.isArray(json.images) ? json.images : [];
  for (const image of images.filter((each) => !find(each))) {
    notes.add(`The picture "${String(image.uri).slice(0, 100)}" did not come along. Drop it with the file.`);
    resources[image.uri!] = new Uint8Array();
  }
  return { json: json as never, resources };
}

const ofFirstVersion = (name: string): UserProblem =>
  new UserProblem(
    'file-broken',
    `"${name}" is glTF 1.0, which is not read. Export it again as GLB, which is glTF 2.0.`,
    422,
  );

/** The text of a file and, in a GLB, the buffer behind it (glTF 2.0, section 4.4). */
function takeApart(
  bytes: Uint8Array<ArrayBuffer>,
  name: string,
): { text: string; binary: Uint8Array<ArrayBuffer> | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 4 || view.getUint32(0, true) !== GLB_MAGIC)
    return { text: new TextDecoder().decode(bytes), binary: null };
  if (bytes.length < 20) throw brokenGltf(name, 'it is cut off');
  const version = view.getUint32(4, true);
  if (version === 1) throw ofFirstVersion(name);
  if (version !== 2) throw brokenGltf(name, 'it is damaged, or of a version of glTF that is not known here');
  const end = 20 + view.getUint32(12, true);
  if (end > bytes.length || view.getUint32(16, true) !== JSON_CHUNK) throw brokenGltf(name, 'it is cut off or damaged');
  const text = new TextDecoder().decode(bytes.subarray(20, end));
  if (end + 8 > bytes.length || view.getUint32(end + 4, true) !== BINARY_CHUNK) return { text, binary: null };
  return { text, binary: bytes.subarray(end + 8, end + 8 + view.getUint32(end, true)) };
}

function decodePath(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
