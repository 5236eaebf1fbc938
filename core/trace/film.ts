import { FILM_FLOATS, FILM_MET, FILM_PART, FILM_SQUARES } from '@zippy/kernel/layout';
import { luminance } from '../optics';

/** Turns the sums of a film into means in place; see kernel/assembly/layout.ts for the places of a pixel. */
export function averageFilm(film: Float32Array, samples: number): void {
  for (let at = 0; at < film.length; at += FILM_FLOATS) {
    const met = film[at + FILM_MET]!;
    const depth = met > 0 ? film[at + 7]! / met : 0;
    for (let k = 0; k < FILM_PART; k++) film[at + k]! /= samples;
    film[at + 7] = depth;
    film[at + FILM_MET] = met / samples;
    const mean = luminance([film[at]!, film[at + 1]!, film[at + 2]!]);
    const spread = Math.max(0, film[at + FILM_SQUARES]! / samples - mean * mean);
    // One sample says nothing of its spread: its own value stands for it.
    film[at + FILM_SQUARES] = samples > 1 ? Math.sqrt(spread / (samples - 1)) : mean;
  }
}
