import { describe, expect, it } from 'vitest';
import {
  gradeSurroundings,
  gradientSurroundings,
  meetSurroundings,
  turnSurroundings,
  type SurroundingsPicture,
} from './index';

const plain = { contrast: 1, saturation: 1, blur: 0 };
const at = ({ width, pixels }: SurroundingsPicture, x: number, y: number) => [
  ...pixels.subarray((y * width + x) * 3, (y * width + x) * 3 + 3),
];

/** Light over the sphere: every pixel by its solid angle. */
function flux({ width, height, pixels }: SurroundingsPicture): number {
  let sum = 0;
  for (let k = 0; k < pixels.length; k += 3) {
    const row = Math.floor(k / 3 / width);
    sum += (pixels[k]! * 2 * Math.PI * Math.PI * Math.sin(((row + 0.5) / height) * Math.PI)) / (width * height);
  }
  return sum;
}

describe('surroundings', () => {
  it('lean to the front before they are turned, and are met again from there', () => {
    const close = (v: number[]) => v.map((each) => expect.closeTo(each, 9));
    expect(turnSurroundings([0, 1, 0], 0, Math.PI / 2)).toEqual(close([0, 0, 1]));
    expect(turnSurroundings([0, 1, 0], Math.PI / 2, Math.PI / 2)).toEqual(close([1, 0, 0]));
    const [x, y, z] = turnSurroundings([0.6, 0, 0.8], 0.7, -0.4);
    expect(meetSurroundings([x, y, z], 0.7, -0.4)).toEqual(close([0.6, 0, 0.8]));
  });

  it('of a gradient have their colours overhead, at the horizon and below, and even steps between', () => {
    const picture = gradientSurroundings([1, 0, 0], [0, 1, 0], [0, 0, 1]);
    const [top, middle, bottom] = [0, 64, 127].map((y) => at(picture, 1, y));
    expect(top![0]).toBeGreaterThan(0.98);
    expect(middle![1]).toBeGreaterThan(0.98);
    expect(bottom![2]).toBeGreaterThan(0.98);
    expect(at(picture, 0, 32)[0]).toBeCloseTo(0.5, 1);
  });

  it('are the same picture where nothing is graded', () => {
    const picture = gradientSurroundings([1, 1, 1], [0.5, 0.5, 0.5], [0, 0, 0]);
    expect(gradeSurroundings(picture, plain)).toBe(picture);
  });

  it('of twice the contrast have bright and dark twice as many stops apart; without saturation they are grey', () => {
    const picture = { width: 2, height: 1, pixels: new Float32Array([4, 4, 4, 1, 1, 1]) };
    const strong = gradeSurroundings(picture, { ...plain, contrast: 2 });
    expect(strong.pixels[0]! / strong.pixels[3]!).toBeCloseTo(16, 3);
    const grey = gradeSurroundings(
      { ...picture, pixels: new Float32Array([1, 0, 0, 0, 1, 0]) },
      { ...plain, saturation: 0 },
    );
    for (const k of [0, 1, 2]) expect(grey.pixels[k]).toBeCloseTo(0.2126, 4);
    for (const k of [3, 4, 5]) expect(grey.pixels[k]).toBeCloseTo(0.7152, 4);
  });

  it('that are black stay black, and nothing becomes infinite', () => {
    const graded = gradeSurroundings(
      { width: 2, height: 1, pixels: new Float32Array([0, 0, 0, 65504, 1, 0]) },
      { contrast: 4, saturation: 4, blur: 0 },
    );
    expect(at(graded, 0, 0)).toEqual([0, 0, 0]);
    for (const value of at(graded, 1, 0)) expect(value >= 0 && value <= 65504).toBe(true);
  });

  it.each([
    ['at the horizon', 24],
    ['near the pole', 3],
  ])('when blurred keep their light and spread a point %s as a bell of the angle', (_, row) => {
    const [width, height, blur] = [96, 48, 0.2];
    const pixels = new Float32Array(width * height * 3);
    const solid = ((2 * Math.PI * Math.PI) / (width * height)) * Math.sin(((row + 0.5) / height) * Math.PI);
    pixels.fill(1 / solid, (row * width + 48) * 3, (row * width + 49) * 3);
    const blurred = gradeSurroundings({ width, height, pixels }, { ...plain, blur });
    expect(flux(blurred)).toBeCloseTo(1, 1.3);
    // The peak of a bell on a sphere, almost flat over this angle.
    const bright = blurred.pixels.reduce((most, v) => Math.max(most, v), 0);
    expect(bright / (1 / (2 * Math.PI * blur * blur))).toBeGreaterThan(0.93);
    expect(bright / (1 / (2 * Math.PI * blur * blur))).toBeLessThan(1.07);
    const below = at(blurred, 48, row + 3)[0]! / at(blurred, 48, row)[0]!;
    expect(below / Math.exp(-0.5 * ((3 * Math.PI) / height / blur) ** 2)).toBeCloseTo(1, 1.3);
  });

  it('when blurred keep the light of a fine picture, whose pixels do not fit the coarser one', () => {
    const pixels = new Float32Array(250 * 125 * 3);
    for (const [x, y] of [[7, 3], [200, 61], [111, 99]] as const) pixels.fill(1000, (y * 250 + x) * 3, (y * 250 + x + 1) * 3); // prettier-ignore
    const picture = { width: 250, height: 125, pixels };
    expect(flux(gradeSurroundings(picture, { ...plain, blur: 0.15 })) / flux(picture)).toBeCloseTo(1, 1.6);
  });
});
