import { FILM_FLOATS, FILM_GUIDE_SQUARES, FILM_SAMPLES, FILM_SQUARES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { likePixels } from './likeness';

const SIZE = 9;
const SAMPLES = 8;

interface Shown {
  light?: number;
  /** Deviation of the light of single samples. */
  noise?: number;
  normal?: readonly [number, number, number];
  /** Deviation of the normal of single samples. */
  blur?: number;
  albedo?: number;
}

/** How many pixels are like each one in a film of nine pixels a side, by place. */
function like(shown: (x: number, y: number) => Shown) {
  const film = new Float32Array(SIZE * SIZE * FILM_FLOATS);
  for (let k = 0; k < SIZE * SIZE; k++) {
    const { light = 0.5, noise = 0, normal = [0, 0, 1], blur = 0, albedo = 0.5 } = shown(k % SIZE, (k / SIZE) | 0);
    const put = (at: number, ...values: number[]) =>
      film.set(
        values.map((v) => v * SAMPLES),
        k * FILM_FLOATS + at,
      );
    put(0, light, light, light);
    put(4, ...normal);
    put(8, albedo, albedo, albedo);
    put(FILM_SQUARES, light ** 2 + noise ** 2);
    put(FILM_SAMPLES, 1);
    put(FILM_GUIDE_SQUARES, normal.reduce((sum, v) => sum + v * v, 0) + blur ** 2, 3 * albedo ** 2);
  }
  const found = likePixels(film, { width: SIZE, height: SIZE, floats: FILM_FLOATS });
  return (x: number, y: number) => found[y * SIZE + x]!;
}

describe('pixels like each other', () => {
  it('are all of an even field, fewer at its border and in its corners', () => {
    const even = like(() => ({}));
    expect(even(4, 4)).toBeGreaterThan(8);
    expect(even(4, 4)).toBeLessThanOrEqual(9);
    expect(even(0, 4)).toBeLessThan(6);
    expect(even(0, 4)).toBeGreaterThan(5);
    expect(even(8, 8)).toBeLessThan(4);
    expect([even(4, 0), even(8, 4), even(0, 0)]).toEqual([even(0, 4), even(0, 4), even(8, 8)]);
  });

  it.each<[string, Shown]>([
    ['a normal', { normal: [1, 0, 0] }],
    ['a colour', { albedo: 0.9 }],
    ['light', { light: 2 }],
  ])('are none beside a dot of another %s', (_, dot) => {
    const around = like((x, y) => (x === 4 && y === 4 ? dot : {}));
    expect(around(4, 4)).toBeCloseTo(1, 1);
    expect(around(4, 5)).toBeGreaterThan(6.5);
    expect(around(4, 5)).toBeLessThan(8);
    expect(around(4, 6)).toBeGreaterThan(8);
  });

  it('are those along an edge', () => {
    const edge = like((x) => ({ albedo: x < 4 ? 0.2 : 0.8 }));
    for (const x of [3, 4]) {
      expect(edge(x, 4)).toBeGreaterThan(5);
      expect(edge(x, 4)).toBeLessThan(6);
    }
    expect(edge(2, 4)).toBeGreaterThan(8);
  });

  it('may differ as much as their own noise lets them', () => {
    const uneven = (noise: number, blur: number) =>
      like((x, y) => ({ light: (x + y) % 2 ? 0.4 : 0.6, noise, normal: [0, (x + y) % 2 ? 0.1 : -0.1, 1], blur }))(4, 4);
    // Those at the corners are alike.
    expect(uneven(0, 0)).toBeLessThan(4.5);
    expect(uneven(0, 0.5)).toBeLessThan(4.5);
    expect(uneven(0.5, 0)).toBeLessThan(5);
    expect(uneven(0.5, 0.5)).toBeGreaterThan(7.5);
  });
});
