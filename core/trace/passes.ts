import { FILM_SAMPLES, FILM_SQUARES } from '@zippy/kernel/layout';
import { luminance } from '../optics';
import { developedError } from './adaptive';

/** Most samples of one pass: short passes let a change of the scene be answered at once. */
const MOST_IN_PASS = 16;

/** Ends of the passes a picture is refined in: 1, 2, 4 … and from 16 on in steps, up to `most` samples. */
export function refiningPasses(most: number): number[] {
  const ends: number[] = [];
  for (let end = 1; end < most; end += Math.min(end, MOST_IN_PASS)) ends.push(end);
  return [...ends, most];
}

/** Noise of an averaged film: root mean square of its pixels' errors in display values; pixels without samples do not count. */
export function filmNoise(film: Float32Array, floats: number): number {
  let squares = 0;
  let count = 0;
  for (let at = 0; at < film.length; at += floats) {
    if (film[at + FILM_SAMPLES]! === 0) continue;
    squares += developedError(luminance([film[at]!, film[at + 1]!, film[at + 2]!]), film[at + FILM_SQUARES]!) ** 2;
    count++;
  }
  return count > 0 ? Math.sqrt(squares / count) : 0;
}
