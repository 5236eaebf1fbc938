import { readFile } from 'node:fs/promises';
import { readCube, type LookupTable } from '@zippy/core/develop';

let last: { path: string; table: LookupTable } | null = null;

/** The look-up table in a stored file, kept for the next frame; null where there is none. */
export async function readLookup(path: string | null): Promise<LookupTable | null> {
  if (path === null) return null;
  if (last?.path !== path) last = { path, table: readCube(await readFile(path, 'utf8'), 'The look-up table') };
  return last.table;
}
