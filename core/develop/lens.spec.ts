import { describe, expect, it } from 'vitest';
import { fringe, throughLens, zoomBlur } from './lens';
import { finishPrint } from './print';
import { decodeSrgb } from '../optics';
import { defaultLook, type Look } from '../document';

const [width, height] = [64, 48];
const plain = (value = 0.5) => ({ width, height, pixels: new Float32Array(width * height * 4).fill(value) });
const at = (pixels: Float32Array, x: number, y: number, k = 0) => pixels[(y * width + x) * 4 + k]!;
function dot(x: number, y: number) {
  const light = plain(0);
  light.pixels.fill(1, (y * width + x) * 4, (y * width + x) * 4 + 4);
  return light;
}
const print = (value: number, over: Partial<Look>, frame = 0) => {
  const made = plain(value);
  finishPrint(made, { ...defaultLook(), ...over }, frame);
  return made.pixels;
};

describe('a lens', () => {
  it('that does nothing hands the same light on', () => {
    const light = plain();
    expect(throughLens(light, { zoomBlur: 0, fringing: 0 })).toBe(light.pixels);
  });

  it('leaves even light even', () => {
    for (const v of throughLens(plain(), { zoomBlur: 1, fringing: 1 })) expect(v).toBeCloseTo(0.5, 6);
  });

  it('that is zoomed draws a point out along its way from the middle, and not aside', () => {
    const drawn = zoomBlur(dot(42, 24), 0.5);
    // 10.5 pixels from the middle; light from there reaches out to 10.5 / 0.8.
    for (const x of [43, 44]) expect(at(drawn, x, 24)).toBeGreaterThan(0.1);
    expect(at(drawn, 47, 24)).toBe(0);
    expect(at(drawn, 40, 24)).toBe(0);
    expect(at(drawn, 43, 28)).toBe(0);
    // The middle stands still.
    expect(at(zoomBlur(dot(32, 24), 1), 32, 24)).toBeGreaterThan(0.4);
  });

  it('that fringes has red reach further out than green, and blue less', () => {
    const wide = 400;
    const light = { width: wide, height: 1, pixels: new Float32Array(wide * 4) };
    for (let x = 350; x < wide; x++) light.pixels.fill(1, x * 4, x * 4 + 4);
    const out = fringe(light, 1);
    // The edge is 150 pixels from the middle: a hundredth of that is 1.5.
    const edge = (k: number) => out.filter((_, i) => i % 4 === k && i < wide * 4).reduce((sum, v) => sum + v, 0);
    expect(edge(1) - edge(0)).toBeCloseTo(1.5, 0.7);
    expect(edge(2) - edge(1)).toBeCloseTo(1.5, 0.7);
    expect(edge(1)).toBe(50);
  });
});

describe('the print', () => {
  it('is darkened towards the corners in linear light, and not in the middle', () => {
    const dark = print(0.5, { vignette: 0.6, vignetteSize: 0.5 });
    expect(at(dark, 32, 24)).toBe(0.5);
    // Almost in the corner almost all of the amount is gone.
    expect(decodeSrgb(at(dark, 0, 0)) / decodeSrgb(0.5)).toBeCloseTo(0.4, 1.7);
    expect(at(dark, 0, 0)).toBeLessThan(at(dark, 6, 5));
    expect(at(dark, 0, 0, 3)).toBe(0.5);
  });

  it('is sharpened where it changes, by as much as it is asked, and nowhere else', () => {
    const made = plain(0.4);
    for (let y = 0; y < height; y++)
      for (let x = 32; x < width; x++) made.pixels.fill(0.6, (y * width + x) * 4, (y * width + x) * 4 + 3);
    finishPrint(made, { ...defaultLook(), sharpen: 1 }, 0);
    // An edge keeps a quarter of its step on the other side: that is what is added and taken.
    expect([30, 31, 32, 33].map((x) => at(made.pixels, x, 20))).toEqual(
      [0.4, 0.35, 0.65, 0.6].map((v) => expect.closeTo(v, 5)),
    );
  });

  it('has grain of the strength that is asked, alike from frame to frame in strength only, and none in clear white', () => {
    const deviation = (pixels: Float32Array) => {
      const values = pixels.filter((_, k) => k % 4 === 0);
      const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
      return [mean, Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length)];
    };
    const [mean, spread] = deviation(print(0.5, { grain: 0.5 }));
    expect(mean).toBeCloseTo(0.5, 1.7);
    expect(spread).toBeGreaterThan(0.05);
    expect(spread).toBeLessThan(0.07);
    expect(print(0.5, { grain: 0.5 }, 1)).not.toEqual(print(0.5, { grain: 0.5 }, 2));
    expect(print(0.5, { grain: 0.5 }, 1)).toEqual(print(0.5, { grain: 0.5 }, 1));
    expect(deviation(print(1, { grain: 0.5 }))[1]).toBeLessThan(0.012);
  });

  it('has coarser grain where it is asked: neighbours are more alike', () => {
    const alike = (grainSize: number) => {
      const pixels = print(0.5, { grain: 1, grainSize });
      let sum = 0;
      for (let y = 0; y < height; y++)
        for (let x = 1; x < width; x++) sum += (at(pixels, x, y) - 0.5) * (at(pixels, x - 1, y) - 0.5);
      return sum;
    };
    expect(alike(4 / height)).toBeGreaterThan(5 * Math.abs(alike(1 / height)));
  });
});
