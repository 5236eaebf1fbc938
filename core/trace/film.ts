import {
  FILM_AXIS,
  FILM_FLOATS,
  FILM_GUIDE_SQUARES,
  FILM_MET,
  FILM_PART,
  FILM_SAMPLES,
  FILM_SQUARES,
  MATTE_RANKS,
} from '@zippy/kernel/layout';
import { luminance } from '../optics';
import type { LoadedFrame } from './loadedFrame';

type FilmShape = Pick<LoadedFrame, 'floats' | 'layers' | 'groups'>;

/** Turns the sums of a film into means in place; see kernel/assembly/layout.ts for the places of a pixel. */
export function averageFilm(film: Float32Array, { floats, layers, groups }: FilmShape): void {
  const perMet = new Set<number>();
  if (layers.position !== undefined) for (let k = 0; k < 3; k++) perMet.add(layers.position + k);
  const ids = new Set<number>();
  if (layers.mattes !== undefined) for (let k = 0; k < MATTE_RANKS * 2; k++) ids.add(layers.mattes + k * 2);
  for (let at = 0; at < film.length; at += floats) {
    const samples = Math.max(1, film[at + FILM_SAMPLES]!);
    const met = film[at + FILM_MET]!;
    const share = 1 / samples;
    const depth = met > 0 ? film[at + 7]! / met : 0;
    const depthSquares = met > 0 ? film[at + FILM_GUIDE_SQUARES + 2]! / met : 0;
    for (let k = 0; k < FILM_PART; k++) film[at + k]! *= share;
    film[at + 7] = depth;
    film[at + FILM_AXIS] = met > 0 ? film[at + FILM_AXIS]! / met : 0;
    film[at + FILM_MET] = met * share;
    const mean = luminance([film[at]!, film[at + 1]!, film[at + 2]!]);
    const spread = Math.max(0, film[at + FILM_SQUARES]! * share - mean * mean);
    // One sample says nothing of its spread: its own value stands for it.
    film[at + FILM_SQUARES] = samples > 1 ? Math.sqrt(spread / (samples - 1)) : mean;
    const guides = at + FILM_GUIDE_SQUARES;
    const variance = (squares: number, ...means: number[]) =>
      Math.max(0, squares - means.reduce((sum, v) => sum + v * v, 0)) / Math.max(1, samples - 1);
    film[guides] = variance(film[guides]! * share, film[at + 4]!, film[at + 5]!, film[at + 6]!);
    film[guides + 1] = variance(film[guides + 1]! * share, film[at + 8]!, film[at + 9]!, film[at + 10]!);
    film[guides + 2] = variance(depthSquares, depth);
    for (let k = FILM_FLOATS; k < floats; k++) {
      if (ids.has(k)) continue;
      film[at + k]! *= perMet.has(k) ? (met > 0 ? 1 / met : 0) : share;
    }
    if (layers.lights === undefined) continue;
    // The light layers are what was measured; the picture is their sum, to the last bit.
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let g = 0; g < groups.length; g++) sum = Math.fround(sum + film[at + layers.lights + g * 3 + c]!);
      film[at + c] = sum;
    }
  }
}
