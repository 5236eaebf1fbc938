import { createReadStream } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { join, parse } from 'node:path';
import { newAsset, type Asset } from '@zippy/core/document';
import type { Blobs } from './storage/blobs';

/** Stores the surroundings that come with the program, so that every new project can be lit by them. */
export async function storeShippedSurroundings(blobs: Blobs, folder: string): Promise<Asset[]> {
  const files = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith('.exr')).sort();
  return Promise.all(
    files.map(async (file): Promise<Asset> => {
      const { hash } = await blobs.store(createReadStream(join(folder, file)));
      const id = parse(file).name;
      const words = id.replaceAll('-', ' ');
      const name = words.charAt(0).toUpperCase() + words.slice(1);
      return newAsset({ id, name, kind: 'surroundings', hash, sourceName: file });
    }),
  );
}
