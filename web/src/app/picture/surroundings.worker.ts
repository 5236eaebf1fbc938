/// <reference lib="webworker" />
import type { StudioSet } from '@zippy/core/document';
import { readSurroundings } from '@zippy/core/intake';
import { gradeSurroundings, paintSurroundings, shrink, type SurroundingsPicture } from '@zippy/core/optics';

/** Surroundings that the mirror ball shall show, and where their picture is. */
export interface BallRequest {
  id: number;
  surroundings: StudioSet['surroundings'];
  file: { url: string; name: string } | null;
}

/** Their picture, graded and small, before it is multiplied and turned; null where it cannot be read. */
export interface BallAnswer {
  id: number;
  picture: SurroundingsPicture | null;
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
addEventListener('message', async ({ data: { id, surroundings, file } }: MessageEvent<BallRequest>) => {
  try {
    const painted = await paintSurroundings({ ...surroundings, picture: file && surroundings.picture }, () =>
      read(file!),
    );
    postMessage({ id, picture: gradeSurroundings(painted, surroundings) } satisfies BallAnswer);
  } catch {
    postMessage({ id, picture: null } satisfies BallAnswer);
  }
});
