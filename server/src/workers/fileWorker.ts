// Reads files that people bring besides models: surroundings, pictures, look-up tables. They may be damaged in any way.
import { readFile, stat } from 'node:fs/promises';
import { readCube } from '@zippy/core/develop';
import { LIMITS, UserProblem } from '@zippy/core/document';
import { readSurroundings } from '@zippy/core/intake';
import { normalizePicture } from '../imports/picture';
import { openFont, outlineWords } from '../reel/fonts';
import { answering } from './answering';

/** A file that is looked into. */
export interface LookedInto {
  kind: 'surroundings' | 'picture' | 'lookup' | 'font';
  path: string;
  /** As its owner calls it. */
  name: string;
}
/** A font of its owner's, or one that is shipped. */
export type Fonts = { path: string; name: string } | { font: string };
export type FileTask = LookedInto | { kind: 'outline'; words: string; font: Fonts };

const MOST_LOOKUP_BYTES = 100e6;

async function surroundings({ path, name }: LookedInto): Promise<{ width: number; height: number; clipped: number }> {
  const { width, height, clipped } = readSurroundings(new Uint8Array(await readFile(path)), name);
  return { width, height, clipped };
}

async function lookup({ path, name }: LookedInto): Promise<object> {
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
    case 'font':
      return openFont(task.path, task.name).then(({ fullName, familyName }) => ({
        name: (fullName || familyName || task.name).slice(0, LIMITS.nameLength),
      }));
    case 'outline':
      return outlineWords(task.words, task.font);
    case 'picture':
      return readFile(task.path).then((bytes) => normalizePicture(new Uint8Array(bytes), task.name));
  }
});
