import { FILM_FLOATS, FILM_SAMPLES, FILM_SQUARES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { developedError } from './adaptive';
import { filmNoise, refiningPasses } from './index';

describe('refining', () => {
  it('doubles first, then goes in short steps, and ends on the wanted count', () => {
    expect(refiningPasses(1)).toEqual([1]);
    expect(refiningPasses(6)).toEqual([1, 2, 4, 6]);
    expect(refiningPasses(70)).toEqual([1, 2, 4, 8, 16, 32, 48, 64, 70]);
  });

  it('names the noise as the display shows it, over the pixels that were rendered', () => {
    const film = new Float32Array(3 * FILM_FLOATS);
    for (const k of [0, 1]) {
      film.fill(0.5, k * FILM_FLOATS, k * FILM_FLOATS + 3);
      film[k * FILM_FLOATS + FILM_SAMPLES] = 4;
    }
    film[FILM_SQUARES] = 0.1;
    expect(filmNoise(film, FILM_FLOATS)).toBeCloseTo(developedError(0.5, 0.1) / Math.SQRT2);
    expect(filmNoise(new Float32Array(FILM_FLOATS), FILM_FLOATS)).toBe(0);
  });
});
