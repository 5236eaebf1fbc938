import { describe, expect, it } from 'vitest';
import { CHANGES } from '../changes';
import { fill, giveWay, mixShares, putInto, veil } from './mix';
import { placeIn } from './place';

const at = { fit: 'whole', zoom: 1, aimX: 0.5, aimY: 0.5 } as const;

describe('a picture comes into the film', () => {
  const wide = { width: 200, height: 100 };
  const square = { width: 100, height: 100 };
  it('whole, with ground beside it', () =>
    expect(placeIn(wide, square, at)).toEqual({ x: 0, y: 25, width: 100, height: 50 }));
  it('filling it, with the point that counts in the middle', () => {
    expect(placeIn(wide, square, { ...at, fit: 'fill' })).toEqual({ x: -50, y: 0, width: 200, height: 100 });
    expect(placeIn(wide, square, { ...at, fit: 'fill', aimX: 0.3 }).x).toBe(-10);
    // It never shows what is beyond the picture.
    expect(placeIn(wide, square, { ...at, fit: 'fill', aimX: 1 }).x).toBe(-100);
  });
  it('pixel for pixel, or larger than that', () => {
    expect(placeIn(square, wide, { ...at, fit: 'trueSize' })).toEqual({ x: 50, y: 0, width: 100, height: 100 });
    expect(placeIn(square, wide, { ...at, fit: 'trueSize', zoom: 2 })).toMatchObject({ x: 0, width: 200, y: -50 });
  });
});

describe('pixels', () => {
  const pixel = (...values: number[]) => Uint8Array.from(values);
  it('are mixed by shares, and what is open counts for no colour', () => {
    const mixed = mixShares([
      { pixels: pixel(100, 0, 0, 255), share: 0.5 },
      { pixels: pixel(200, 0, 0, 255), share: 0.5 },
    ]);
    expect([...mixed]).toEqual([150, 0, 0, 255]);
    const open = mixShares([
      { pixels: pixel(100, 50, 0, 255), share: 0.5 },
      { pixels: pixel(255, 255, 255, 0), share: 0.5 },
    ]);
    expect([...open]).toEqual([100, 50, 0, 128]);
  });

  it('give way to others: a fade of two that are the same changes nothing, open or not', () => {
    for (const alpha of [255, 120, 0]) {
      const before = pixel(10, 20, 30, alpha);
      giveWay(before, pixel(10, 20, 30, alpha), 1, { kind: 'even', share: 0.3 });
      expect([...before]).toEqual(alpha ? [10, 20, 30, alpha] : [0, 0, 0, 0]);
    }
  });

  it('with sixteen bits are mixed as finely', () => {
    const before = Uint16Array.from([0, 0, 0, 65_535]);
    giveWay(before, Uint16Array.from([1000, 0, 0, 65_535]), 1, { kind: 'even', share: 0.25 });
    expect(before[0]).toBe(250);
    veil(before, [1, 1, 1], 1);
    expect([...before]).toEqual([65_535, 65_535, 65_535, 65_535]);
  });

  it('of a wipe are seen up to its edge', () => {
    const [width, height] = [8, 1];
    const row = (value: number) => Uint8Array.from({ length: 4 * width }, (_, k) => (k % 4 === 3 ? 255 : value));
    const size = { width, height };
    const seen = (share: number) => {
      const before = row(0);
      giveWay(before, row(200), width, CHANGES.wipe.mask!(share, size, { wipeTurn: 0, wipeSoft: 0 }));
      return Array.from({ length: width }, (_, x) => before[4 * x]!);
    };
    // To the right: the left is seen first.
    expect(seen(0).every((value) => value === 0)).toBe(true);
    expect(seen(1).every((value) => value === 200)).toBe(true);
    const half = seen(0.5);
    expect([half[0], half[7]]).toEqual([200, 0]);
  });

  it('are put at their place, and what is beyond the film is left out', () => {
    const film = new Uint8Array(4 * 9);
    fill(film, [0, 0, 0]);
    const picture = Uint8Array.from({ length: 16 }, () => 255);
    putInto(film, 3, picture, { width: 2, height: 2 }, 2, -1);
    const lit = Array.from({ length: 9 }, (_, k) => film[4 * k]! > 0);
    expect(lit).toEqual([false, false, true, false, false, false, false, false, false]);
  });
});
