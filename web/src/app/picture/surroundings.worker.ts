/// <reference lib="webworker" />
import { expose } from 'comlink';
import type { StudioSet } from '@zippy/core/document';
import { readSurroundings } from '@zippy/core/intake';
import { gradeSurroundings, paintSurroundings, shrink, type SurroundingsPicture } from '@zippy/core/optics';

/** Surroundings that the mirror ball shall show, and where their picture is. */
export interface BallRequest {
  surroundings: StudioSet['surroundings'];
  file: { url: string; name: string } | null;
}

const WIDTH = 256;
const HEIGHT = 128;

/** Pictures read before, small. */
const known = new Map<string, SurroundingsPicture>();

async function read({ url, name }: NonNullable<BallRequest['file']>): Promise<SurroundingsPicture> {
  const before = known.get(url);
  if (before) return before;
  const response = await fetch(url);
  const picture = readSurroundings(new Uint8Array(await response.arrayBuffer()), name);
  const small = shrink(picture, Math.min(WIDTH, picture.width), Math.min(HEIGHT, picture.height));
  known.set(url, small);
  return small;
}

/** Paints surroundings away from the page, small enough for the mirror ball. */
const thread = {
  /** Their picture, graded and small, before it is multiplied and turned; null where it cannot be read. */
  async paint({ surroundings, file }: BallRequest): Promise<SurroundingsPicture | null> {
    try {
      const wanted = { ...surroundings, picture: file && surroundings.picture };
      return gradeSurroundings(await paintSurroundings(wanted, () => read(file!)), surroundings);
    } catch {
      return null;
    }
  },
};

export type SurroundingsThread = typeof thread;

expose(thread);
