import { FILM_FLOATS, FILM_SQUARES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { filmNoise, refiningPasses } from './index';

describe('refining', () => {
  it('doubles first, then goes in short steps, and ends on the wanted count', () => {
    expect(refiningPasses(1)).toEqual([1]);
    expect(refiningPasses(6)).toEqual([1, 2, 4, 6]);
    expect(refiningPasses(70)).toEqual([1, 2, 4, 8, 16, 32, 48, 64, 70]);
  });

  it('names noise relative to the light of the whole film', () => {
    const film = new Float32Array(2 * FILM_FLOATS);
    film.fill(2, 0, 3);
    film[FILM_SQUARES] = 0.1;
    expect(filmNoise(film, FILM_FLOATS)).toBeCloseTo(0.05);
    expect(filmNoise(new Float32Array(FILM_FLOATS), FILM_FLOATS)).toBe(0);
  });
});
