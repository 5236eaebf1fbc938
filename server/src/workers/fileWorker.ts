// Reads files that people bring besides models: surroundings, pictures, look-up tables. They may be damaged in any way.
import { readFile, stat } from 'node:fs/promises';
import { readCube } from '@zippy/core/develop';
import { UserProblem } from '@zippy/core/document';
import { readSurroundings } from '@zippy/core/intake';
import { normalizePicture } from '../imports/picture';
import { answering } from './answering';

export interface FileTask {
  kind: 'surroundings' | 'picture' | 'lookup';
  path: string;
  /** As its owner calls it. */
  name: string;
}

const MOST_LOOKUP_BYTES = 100e6;

async function surroundings({ path, name }: FileTask): Promise<{ width: number; height: number; clipped: number }> {
  const { width, height, clipped } = readSurroundings(new Uint8Array(await readFile(path)), name);
  return { width, height, clipped };
}

async function lookup({ path, name }: FileTask): Promise<object> {
  if ((await stat(path)).size > MOST_LOOKUP_BYTES)
    throw new UserProblem('lookup-broken', `"${name}" is larger than the 100 MB that a look-up table may have.`, 422);
  readCube(await readFile(path, 'utf8'), name);
  return {};
}

export default answering<FileTask, unknown>((task) => {
  switch (task.kind) {
    case 'surroundings':
      return surroundings(task);
    case 'lookup':
      return lookup(task);
    case 'picture':
      return readFile(task.path).then((bytes) => normalizePicture(new Uint8Array(bytes), task.name));
  }
});
