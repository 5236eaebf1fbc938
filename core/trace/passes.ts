import { FILM_SQUARES } from '@zippy/kernel/layout';
import { luminance } from '../optics';

/** Most samples of one pass: short passes let a change of the scene be answered at once. */
const MOST_IN_PASS = 16;

/** Ends of the passes a picture is refined in: 1, 2, 4 … and from 16 on in steps, up to `most` samples. */
export function refiningPasses(most: number): number[] {
  const ends: number[] = [];
  for (let end = 1; end < most; end += Math.min(end, MOST_IN_PASS)) ends.push(end);
  return [...ends, most];
}

/** Noise of an averaged film: mean over its pixels of the deviation, relative to the light; dark pixels count little. */
export function filmNoise(film: Float32Array, floats: number): number {
  let deviation = 0;
  let light = 0;
  for (let at = 0; at < film.length; at += floats) {
    deviation += film[at + FILM_SQUARES]!;
    light += luminance([film[at]!, film[at + 1]!, film[at + 2]!]);
  }
  return light > 0 ? deviation / light : 0;
}
