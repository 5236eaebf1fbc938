import type { Asset } from './schema';

/** A file by its content, and what it is called. */
export interface PictureFile {
  hash: string;
  name: string;
  /** Hash of the file with more than eight bits, where there is one. */
  deep: string | null;
}

/** The file from which light is reckoned. */
export const tracedFile = ({ hash, deep }: PictureFile): string => deep ?? hash;

/** What one frame of footage goes by among the files of a document. @param k from 0 */
export const footageKey = (asset: string, k: number): string => `${asset}@${k}`;

/** Id of the footage that a picture is a frame of; null of one that stands alone. */
export function footageOf(picture: string): string | null {
  const at = picture.indexOf('@');
  return at < 0 ? null : picture.slice(0, at);
}

const known = new WeakMap<object, Record<string, PictureFile>>();

/** Files of all assets but models by asset id; of footage the first frame, and every frame under its own key. */
export function pictureFiles(assets: Readonly<Record<string, Asset>>): Readonly<Record<string, PictureFile>> {
  const made = known.get(assets);
  if (made) return made;
  const files: Record<string, PictureFile> = {};
  for (const { id, kind, hash, deep, sourceName: name, footage } of Object.values(assets)) {
    if (kind === 'model') continue;
    files[id] = { hash, deep, name };
    footage?.frames.forEach((frame, k) => (files[footageKey(id, k)] = { hash: frame, deep: null, name }));
  }
  known.set(assets, files);
  return files;
}
