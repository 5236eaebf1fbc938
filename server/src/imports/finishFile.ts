import { newDocument, newNode, UserProblem, type Asset, type ProjectDocument } from '@zippy/core/document';
import { writeSceneGlb } from '@zippy/core/intake';
import { packArchive } from '@zippy/core/intake/archive';
import { writeMaterialX } from '@zippy/core/intake/materialX';
import { sampleMeshes } from '@zippy/core/shelf';
import type { FinishForm } from '@zippy/core/wire';

/** Bytes of a picture by asset id, null where it is no longer there. */
type PictureOf = (asset: string) => Promise<Uint8Array<ArrayBuffer> | null>;

/**
 * One finish of a document as an open file: MaterialX zipped with its pictures, or a GLB in which the sample body wears it.
 * @throws UserProblem `not-found`
 */
export async function packFinish(
  document: ProjectDocument,
  id: string,
  form: FinishForm,
  pictureOf: PictureOf,
): Promise<Uint8Array<ArrayBuffer>> {
  const finish = document.finishes[id];
  if (!finish) throw new UserProblem('not-found', 'This finish is no longer in the project.', 404);
  if (form === 'gltf') {
    const node = newNode({ name: finish.name, kind: 'part', mesh: { asset: 'sample', index: 0 }, finish: id });
    const sample = { ...newDocument(finish.name), assets: document.assets, finishes: { [id]: finish } };
    const alone = { ...sample, nodes: { [node.id]: node } };
    const body = sampleMeshes()[0]!;
    return writeSceneGlb(alone, { mesh: async () => body, picture: pictureOf });
  }
  const worn = Object.values(finish.maps).flatMap(({ source }) => (source.kind === 'picture' ? [source.picture] : []));
  const files: Record<string, Uint8Array> = {};
  const paths = new Map<string, string>();
  for (const picture of new Set(worn)) {
    const asset = document.assets[picture];
    const bytes = asset ? await pictureOf(picture) : null;
    if (!asset || !bytes) continue;
    const path = `pictures/${pictureName(asset, paths.size)}`;
    paths.set(picture, path);
    files[path] = bytes;
  }
  const text = writeMaterialX(finish, (picture) => paths.get(picture) ?? null);
  return packArchive({ [`${plainName(finish.name)}.mtlx`]: new TextEncoder().encode(text), ...files });
}

/** Names in an archive that every system takes; two pictures may be called the same. */
const pictureName = ({ name }: Asset, k: number): string => `${k + 1} ${plainName(name)}.png`;
const plainName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N} ._-]+/gu, '')
    .trim()
    .slice(0, 80) || 'Finish';
