/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import type { StudioSet } from '@zippy/core/document';
import { readSurroundings } from '@zippy/core/intake';
import {
  gradeSurroundings,
  irradianceHarmonics,
  paintSurroundings,
  reflectionLevels,
  shrink,
  type SurroundingsPicture,
} from '@zippy/core/optics';

/** Surroundings that shall be shown, and where their picture is. */
export interface SurroundingsWish {
  surroundings: StudioSet['surroundings'];
  file: { url: string; name: string } | null;
}

/** What surroundings are to the sketch, before they are multiplied and turned. */
export interface PaintedSurroundings {
  /** Small, for the mirror ball. */
  picture: SurroundingsPicture;
  /** Size of each level. */
  width: number;
  height: number;
  /** See reflectionLevels and irradianceHarmonics. */
  levels: Float32Array;
  harmonics: Float32Array;
}

const WIDTH = 512;
const HEIGHT = 256;
/** Of the mirror ball. */
const BALL = { width: 256, height: 128 };

/** Pictures read before, small. */
const known = new Map<string, SurroundingsPicture>();

async function read({ url, name }: NonNullable<SurroundingsWish['file']>): Promise<SurroundingsPicture> {
  const before = known.get(url);
  if (before) return before;
  const response = await fetch(url);
  const picture = readSurroundings(new Uint8Array(await response.arrayBuffer()), name);
  const small = shrink(picture, Math.min(WIDTH, picture.width), Math.min(HEIGHT, picture.height));
  known.set(url, small);
  return small;
}

/** Paints surroundings away from the page, as finely as the sketch and the mirror ball show them. */
const thread = {
  /** Null where their picture cannot be read. */
  async paint({ surroundings, file }: SurroundingsWish): Promise<PaintedSurroundings | null> {
    try {
      const wanted = { ...surroundings, picture: file && surroundings.picture };
      const graded = gradeSurroundings(await paintSurroundings(wanted, () => read(file!)), surroundings);
      const [width, height] = graded.width > 2 ? [WIDTH, HEIGHT] : [graded.width, graded.height];
      const levels = reflectionLevels(graded, width, height);
      const harmonics = irradianceHarmonics(fitting(graded, 64, 32));
      const picture = fitting(graded, BALL.width, BALL.height);
      return transfer({ picture, width, height, levels, harmonics }, [levels.buffer, harmonics.buffer]);
    } catch {
      return null;
    }
  },
};

function fitting(picture: SurroundingsPicture, width: number, height: number): SurroundingsPicture {
  if (picture.width <= width && picture.height <= height) return picture;
  return shrink(picture, Math.min(width, picture.width), Math.min(height, picture.height));
}

export type SurroundingsThread = typeof thread;

expose(thread);
