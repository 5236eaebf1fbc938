import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { NoiseFilter, type LinearFrame } from './index';

const kernel = await WebAssembly.compile(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);
const noiseFilter = await NoiseFilter.open(kernel);

/** Two flat fields, bright left and dark right, under noisy light. */
function noisyFrame(width: number, height: number, light: (random: number, x: number, y: number) => number) {
  let seed = 1;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const count = width * height;
  const plane = (value: (p: number) => number) => Float32Array.from({ length: count }, (_, p) => value(p));
  const tint = plane((p) => (p % width < width / 2 ? 0.8 : 0.1));
  const guides = {
    normal: [plane(() => 0), plane(() => 0), plane(() => 1)],
    albedo: [tint, tint, tint],
    depth: plane(() => 500),
  };
  const beauty = new Float32Array(count * 4);
  for (let p = 0; p < count; p++) {
    beauty.fill(tint[p]! * light(random(), p % width, Math.floor(p / width)), p * 4, p * 4 + 3);
    beauty[p * 4 + 3] = 1;
  }
  const frame: LinearFrame = { width, height, beauty };
  return { frame, guides };
}

function columnsOf(data: Float32Array, width: number, from: number, to: number) {
  const values: number[] = [];
  for (let p = 0; p < data.length / 4; p++) if (p % width >= from && p % width < to) values.push(data[p * 4]!);
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return { mean, deviation: Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length) };
}

describe('the noise filter', () => {
  it('smooths flat light, keeps its mean and an edge of colour', () => {
    const { frame, guides } = noisyFrame(48, 32, (random) => 0.5 + random);
    const clean = noiseFilter.filter(frame, guides, 1);
    expect(columnsOf(clean, 48, 0, 24).deviation).toBeLessThan(columnsOf(frame.beauty, 48, 0, 24).deviation / 7.5);
    expect(columnsOf(clean, 48, 0, 24).mean).toBeCloseTo(columnsOf(frame.beauty, 48, 0, 24).mean, 1);
    expect(columnsOf(clean, 48, 22, 24).mean).toBeGreaterThan(0.7);
    expect(columnsOf(clean, 48, 24, 26).mean).toBeLessThan(0.13);
  });

  it('by amount 0 leaves every value as it was, by a half goes half the way', () => {
    const { frame, guides } = noisyFrame(30, 20, (random) => random);
    expect(noiseFilter.filter(frame, guides, 0)).toEqual(frame.beauty);
    const whole = noiseFilter.filter(frame, guides, 1);
    const half = noiseFilter.filter(frame, guides, 0.5);
    for (let k = 0; k < half.length; k++) expect(half[k]).toBeCloseTo((frame.beauty[k]! + whole[k]!) / 2, 5);
  });

  it('keeps the edge of a shadow that no guide shows', () => {
    const { frame, guides } = noisyFrame(64, 64, (random, _, y) => (y < 32 ? 2 : 0.2) * (0.95 + 0.1 * random));
    const clean = noiseFilter.filter(frame, guides, 1);
    expect(clean[(28 * 64 + 10) * 4]! / 0.8).toBeGreaterThan(1.8);
    expect(clean[(35 * 64 + 10) * 4]! / 0.8).toBeLessThan(0.35);
  });

  it('does not take noise of the guides for edges, where their noise is known', () => {
    const { frame, guides } = noisyFrame(48, 48, (random) => 0.5 + random);
    let seed = 5;
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5;
    // Out of focus: depth, normal and colour of a pixel are means over few places, each with a spread of its own.
    const blur = (plane: Float32Array, by: number) => plane.map((v) => v + by * random());
    const blurred = {
      normal: guides.normal.map((plane) => blur(plane, 0.4)),
      albedo: guides.albedo.map((plane) => blur(plane, 0.2)),
      depth: blur(guides.depth, 60),
    };
    const even = (value: number) => new Float32Array(48 * 48).fill(value);
    const spread = [even((3 * 0.4 ** 2) / 12), even((3 * 0.2 ** 2) / 12), even(60 ** 2 / 12)];
    const [blind, knowing] = [blurred, { ...blurred, spread }].map(
      (each) => columnsOf(noiseFilter.filter(frame, each, 1), 48, 0, 20).deviation,
    );
    expect(knowing!).toBeLessThan(blind! / 2);
  });

  it('leaves what is finer than its guides show, where the frame says that it is not noise', () => {
    // Lines of light one pixel wide, such as a grille's shadow, with next to no noise.
    const { frame, guides } = noisyFrame(48, 48, (random, x) => (x % 2 ? 1.2 : 0.8) + 0.01 * random);
    const noise = new Float32Array(48 * 48).fill(0.003 * 0.8);
    const clean = noiseFilter.filter(frame, { ...guides, noise }, 1);
    const at = (x: number) => clean[(24 * 48 + x) * 4]! / 0.8;
    expect(at(11) - at(10)).toBeGreaterThan(0.3);
  });

  it('tells lines of light from noise that is half as strong, by what is beside the pixels it compares', () => {
    const level = (x: number) => (x % 6 < 2 ? 1.3 : 0.7);
    const { frame, guides } = noisyFrame(48, 96, (random, x) => level(x) + 0.7 * (random - 0.5));
    const noise = new Float32Array(48 * 96).fill((0.7 * 0.8) / Math.sqrt(12));
    const clean = noiseFilter.filter(frame, { ...guides, noise }, 1);
    const apart = (picture: Float32Array) => {
      let squares = 0;
      for (let y = 8; y < 88; y++)
        for (let x = 4; x < 20; x++) squares += (picture[(y * 48 + x) * 4]! / 0.8 - level(x)) ** 2;
      return Math.sqrt(squares / (80 * 16));
    };
    // Comparing pixel with pixel leaves three quarters of it.
    expect(apart(clean)).toBeLessThan(0.65 * apart(frame.beauty));
  });

  it('keeps lamps of different colour apart that are as bright as each other', () => {
    const { frame, guides } = noisyFrame(48, 48, (random) => 0.9 + 0.2 * random);
    guides.albedo = guides.albedo.map((plane) => plane.fill(1));
    // Green left, red right, both of luminance 0.7, a few pixels wide as lamps of a level display are.
    const [green, red] = [[0.02, 0.97, 0.02], [3.2, 0.02, 0.08]]; // prettier-ignore
    for (let p = 0; p < 48 * 48; p++) {
      const level = frame.beauty[p * 4]! / (p % 48 < 24 ? 0.8 : 0.1);
      for (let c = 0; c < 3; c++) frame.beauty[p * 4 + c] = level * (p % 8 < 4 ? green : red)[c]!;
    }
    const noise = new Float32Array(48 * 48).fill(0.04);
    const clean = noiseFilter.filter(frame, { ...guides, noise }, 1);
    const at = (x: number, c: number) => clean[(24 * 48 + x) * 4 + c]!;
    expect(at(18, 0)).toBeLessThan(0.1);
    expect(at(21, 0)).toBeGreaterThan(2.5);
    expect(at(21, 1)).toBeLessThan(0.1);
  });

  it('takes a single speck out', () => {
    const { frame, guides } = noisyFrame(40, 40, () => 1);
    frame.beauty.fill(500, (20 * 40 + 8) * 4, (20 * 40 + 8) * 4 + 3);
    const clean = noiseFilter.filter(frame, guides, 1);
    expect(Math.max(...clean)).toBeLessThan(1.2);
  });

  it('gives the same values in bands as in one piece, at widths that are no multiple of four', async () => {
    const { frame, guides } = noisyFrame(37, 300, (random) => random * 3);
    const banded = await NoiseFilter.open(kernel, { bandPixels: 37 * 48 });
    expect(banded.filter(frame, guides, 1)).toEqual(noiseFilter.filter(frame, guides, 1));
  });

  it('does not remember the frame before', () => {
    const [large, small] = [noisyFrame(90, 70, () => 40), noisyFrame(21, 17, (random) => random)];
    const first = noiseFilter.filter(small.frame, small.guides, 1);
    noiseFilter.filter(large.frame, large.guides, 1);
    expect(noiseFilter.filter(small.frame, small.guides, 1)).toEqual(first);
  });
});
