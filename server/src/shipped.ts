import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join, parse } from 'node:path';
import { Readable } from 'node:stream';
import { newAsset, type Asset } from '@zippy/core/document';
import type { Blobs } from './storage/blobs';
import { isDiskFull } from './storage/reserve';

/** Stores the surroundings that come with the program, so that every new project can be lit by them. */
export async function storeShippedSurroundings(blobs: Blobs, folder: string): Promise<Asset[]> {
  const files = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith('.exr')).sort();
  return Promise.all(
    files.map(async (file): Promise<Asset> => {
      const bytes = await readFile(join(folder, file));
      const hash = createHash('sha256').update(bytes).digest('hex');
      // Mostly they are there already; on a full disk the server starts without them.
      if (!(await blobs.has(hash)))
        await blobs.store(Readable.from([bytes])).catch((error: unknown) => {
          if (!isDiskFull(error)) throw error;
        });
      const id = parse(file).name;
      const words = id.replaceAll('-', ' ');
      const name = words.charAt(0).toUpperCase() + words.slice(1);
      return newAsset({ id, name, kind: 'surroundings', hash, sourceName: file });
    }),
  );
}
