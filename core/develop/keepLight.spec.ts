import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { Darkroom, type LinearFrame } from './index';
import { keepLight } from './keepLight';

// Tried by breaking it on purpose: quotients of whole nodes laid on without blending, parts that share one balance, and small parts
// that are left out each fail a test here.

const kernel = await WebAssembly.compile(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);
const darkroom = await Darkroom.open(kernel);

function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

/** Sum of a channel over the pixels that are meant. */
const sumOf = (light: Float32Array, channel: number, where: (pixel: number) => boolean): number => {
  let sum = 0;
  for (let k = 0; k < light.length / 4; k++) if (where(k)) sum += light[k * 4 + channel]!;
  return sum;
};

/**
 * A dark plate with bright holes, as a grille lit from behind is, each sample of which meets a lamp by chance: most pixels are
 * darker than the mean, a few much brighter.
 */
function grille(width: number, height: number, samples: number, seed: number): LinearFrame {
  const random = seeded(seed);
  const count = width * height;
  const plane = (value: (k: number) => number) => Float32Array.from({ length: count }, (_, k) => value(k));
  const hole = (k: number) => (k % width) % 6 < 2 && Math.floor(k / width) % 6 < 2;
  const beauty = new Float32Array(count * 4);
  const noise = new Float32Array(count);
  const specks = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    let [sum, squares] = [0, 0];
    for (let s = 0; s < samples; s++) {
      const light = random() < 0.08 ? (hole(k) ? 12 : 3) * (0.5 + random()) : 0.02;
      sum += light;
      squares += light * light;
    }
    const mean = sum / samples;
    for (const [c, tint] of [1, 0.8, 0.5].entries()) beauty[k * 4 + c] = mean * tint;
    beauty[k * 4 + 3] = 1;
    noise[k] = Math.sqrt(Math.max(0, squares / samples - mean * mean) / (samples - 1));
    specks[k] = random() < 0.3 ? 0.4 : 1;
  }
  return {
    width,
    height,
    beauty,
    specks,
    parts: Uint32Array.from({ length: count }, (_, k) => (hole(k) ? 2 : 1)),
    guides: {
      normal: [plane(() => 0), plane(() => 0), plane(() => 1)],
      albedo: [0, 1, 2].map(() => plane((k) => (hole(k) ? 0.7 : 0.1))),
      depth: plane((k) => (hole(k) ? 510 : 500)),
      noise,
    },
  };
}

describe('light is kept', () => {
  it.each([
    [8, { specks: 1, denoise: 0 }],
    [8, { specks: 0, denoise: 1 }],
    [8, { specks: 1, denoise: 1 }],
    [32, { specks: 1, denoise: 0.5 }],
  ])('of a grille with %i samples, whatever is cleaned: %j', (samples, look) => {
    const frame = grille(200, 130, samples, 3);
    const { beauty } = darkroom.clean(frame, look);
    expect(beauty).not.toEqual(frame.beauty);
    for (let c = 0; c < 3; c++) {
      const all = () => true;
      expect(sumOf(beauty, c, all) / sumOf(frame.beauty, c, all)).toBeCloseTo(1, 5);
      // Every part by itself, too.
      for (const part of [1, 2]) {
        const own = (k: number) => frame.parts![k] === part;
        expect(Math.abs(sumOf(beauty, c, own) / sumOf(frame.beauty, c, own) - 1)).toBeLessThan(0.003);
      }
      // And every area that is a few nodes wide, up to what is blended over its rim.
      const area = (k: number) => k % 200 < 96 && Math.floor(k / 200) < 96;
      expect(Math.abs(sumOf(beauty, c, area) / sumOf(frame.beauty, c, area) - 1)).toBeLessThan(0.003);
    }
  });

  it('over many pictures of few samples, none is lost against the truth', () => {
    let [found, truth] = [0, 0];
    for (let seed = 1; seed <= 12; seed++) {
      const frame = grille(96, 96, 8, seed * 17);
      found += sumOf(darkroom.clean(frame, { specks: 1, denoise: 1 }).beauty, 0, () => true);
      const holes = frame.parts!.filter((part) => part === 2).length;
      truth += holes * (0.08 * 12 + 0.92 * 0.02) + (96 * 96 - holes) * (0.08 * 3 + 0.92 * 0.02);
    }
    expect(Math.abs(found / truth - 1)).toBeLessThan(0.01);
  });

  it('of parts too small for a balance of their own is kept together, and none comes into a dark part', () => {
    const [width, height] = [64, 64];
    const parts = new Uint32Array(width * height).fill(1);
    const before = new Float32Array(width * height * 4).fill(1);
    const clean = new Float32Array(width * height * 4).fill(0.9);
    // Two lamps of nine pixels, one of which a filter has dimmed by half, beside a part that is black.
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const k = y * width + x;
        if (x >= 40) parts[k] = 4;
        const lamp = y > 8 && y < 12 ? (x > 4 && x < 8 ? 2 : x > 14 && x < 18 ? 3 : 0) : 0;
        if (lamp) parts[k] = lamp;
        for (let c = 0; c < 3; c++) {
          if (x >= 40) before[k * 4 + c] = clean[k * 4 + c] = 0;
          if (lamp) [before[k * 4 + c], clean[k * 4 + c]] = [20, lamp === 2 ? 10 : 20];
        }
      }
    }
    const out = keepLight(before, clean, width, parts);
    const lamps = (k: number) => parts[k] === 2 || parts[k] === 3;
    expect(sumOf(out, 0, lamps) / sumOf(before, 0, lamps)).toBeCloseTo(1, 5);
    expect(sumOf(out, 1, (k) => parts[k] === 4)).toBe(0);
    expect(out[3]).toBe(clean[3]);
  });

  it('where all of it was taken away, it is laid over the part evenly', () => {
    const before = new Float32Array(32 * 32 * 4);
    before[0] = 100;
    const out = keepLight(before, new Float32Array(32 * 32 * 4), 32);
    expect(sumOf(out, 0, () => true)).toBeCloseTo(100, 3);
    expect(Math.max(...out)).toBeLessThan(1);
  });
});
