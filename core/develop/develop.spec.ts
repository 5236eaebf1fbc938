import { FILM_FLOATS, FILM_SQUARES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { defaultLook, type Look } from '../document';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import {
  Darkroom,
  decodeFrame,
  encodeFrame,
  keptLayers,
  showLayer,
  lightLayers,
  fromHalf,
  readExr,
  readExrHeader,
  speckShare,
  toHalf,
  writeExr,
  type LinearFrame,
} from './index';

const look = (over: Partial<Look> = {}): Look => ({ ...defaultLook(), bloomAmount: 0, denoise: 0, ...over });
const frame = (values: number[], width = values.length) => ({
  width,
  height: values.length / width,
  beauty: new Float32Array(values.flatMap((v) => [v, v, v, 1])),
});

describe('half precision', () => {
  it('keeps what it can hold and rounds to nearest', () => {
    for (const v of [0, 1, -2, 0.5, 65504, 6.1e-5, 2 ** -24]) expect(fromHalf(toHalf(v))).toBeCloseTo(v, 7);
    for (let v = 1e-4; v < 6e4; v *= 1.37) expect(Math.abs(fromHalf(toHalf(v)) / v - 1)).toBeLessThan(2 ** -11);
    expect(fromHalf(toHalf(1e9))).toBe(65504);
  });
});

describe('EXR', () => {
  const picture = {
    width: 37,
    height: 41,
    channels: [
      { name: 'B', type: 'half' as const, data: Float32Array.from({ length: 37 * 41 }, (_, k) => k / 100) },
      { name: 'Z', type: 'float' as const, data: Float32Array.from({ length: 37 * 41 }, (_, k) => Math.sin(k) * 1e5) },
      { name: 'part.id', type: 'uint' as const, data: Uint32Array.from({ length: 37 * 41 }, (_, k) => k * 7919) },
    ],
  };

  it('comes back as it was written', () => {
    const back = readExr(writeExr(picture));
    expect([back.width, back.height]).toEqual([37, 41]);
    expect(back.channels[1]!.data).toEqual(picture.channels[1]!.data);
    expect(back.channels[2]!.data).toEqual(picture.channels[2]!.data);
    expect(back.channels[0]!.data[400]).toBeCloseTo(4, 2);
  });

  it('cut short, or not one at all, is refused with a sentence at any length', () => {
    const bytes = writeExr(picture);
    for (let length = 0; length < bytes.length; length += 97) {
      expect(() => readExr(bytes.slice(0, length))).toThrow(/EXR picture is damaged/);
    }
  });
});

describe('a kept frame', () => {
  it('holds the film and gives back its picture', () => {
    const film = new Float32Array(4 * 3 * FILM_FLOATS).fill(0.25);
    const back = decodeFrame(
      encodeFrame(
        { film, width: 4, height: 3, floats: FILM_FLOATS, layers: {}, groups: [], mattes: { parts: [], finishes: [] } },
        'f'.repeat(64),
      ),
    );
    expect([back.width, back.height]).toEqual([4, 3]);
    expect([...new Set(back.beauty)]).toEqual([0.25]);
  });
});

describe('the product alone', () => {
  const floats = FILM_FLOATS + 4;
  const film = new Float32Array(3 * floats);
  // The plate, a shadow that takes half of it, and the product.
  for (const [k, [light, behind, cover]] of [[0.8, 0.8, 0], [0.45, 0.4, 0.5], [0.3, 0, 1]].entries()) {
    film.set([light!, light!, light!, 1], k * floats);
    film.set([behind!, behind!, behind!, cover!], k * floats + FILM_FLOATS);
  } // prettier-ignore
  const kept = { film, width: 3, height: 1, floats, layers: { behind: FILM_FLOATS }, groups: [], mattes: { parts: [], finishes: [] } }; // prettier-ignore
  const bytes = encodeFrame(kept, 'f'.repeat(64));

  it('is the frame without what is seen behind, as open as things leave that', () => {
    const { beauty } = decodeFrame(bytes, undefined, {}, true);
    [0, 0, 0, 0, 0.05, 0.05, 0.05, 0.5, 0.3, 0.3, 0.3, 1].forEach((v, k) => expect(beauty[k]).toBeCloseTo(v, 3));
    expect(keptLayers(bytes)).toContain('product');
    const [first] = decodeFrame(bytes).beauty;
    expect(first).toBeCloseTo(0.8, 3);
  });

  it('is not offered by frames that do not keep it, and is no layer that is shown as it lies', () => {
    const plain = encodeFrame({ ...kept, film: film.slice(0, 3 * FILM_FLOATS), floats: FILM_FLOATS, layers: {} }, 'f'.repeat(64)); // prettier-ignore
    expect(keptLayers(plain)).not.toContain('product');
    expect(showLayer(bytes, 'product', look())).toBeNull();
  });

  it('has shadows without noise, and edges as sharp as they were', async () => {
    const [width, height] = [48, 32];
    const beauty = new Float32Array(width * height * 4);
    const parts = new Uint32Array(width * height).fill(1);
    const plane = (of: (k: number) => number) => Float32Array.from({ length: width * height }, (_, k) => of(k));
    let seed = 5;
    const chance = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
    for (let k = 0; k < width * height; k++) {
      const solid = k % width >= 32;
      if (solid) parts[k] = 2;
      beauty[k * 4 + 3] = solid ? 1 : (Math.floor(chance() * 5) + Math.floor(chance() * 5)) / 16;
    }
    const guides = {
      normal: [plane(() => 0), plane((k) => (k % width >= 32 ? 0 : 1)), plane((k) => (k % width >= 32 ? 1 : 0))],
      albedo: [0, 1, 2].map(() => plane(() => 0.5)),
      depth: plane((k) => (k % width >= 32 ? 500 : 900)),
      noise: plane(() => 0),
      spread: [0, 1, 2].map(() => plane(() => 0)),
    };
    const clean = darkroom.clean({ width, height, beauty, parts, guides }, { specks: 0, denoise: 1 }).beauty;
    const alphas = (picture: Float32Array) => Array.from({ length: 16 * 24 }, (_, k) => picture[((4 + Math.floor(k / 16)) * width + 8 + (k % 16)) * 4 + 3]!); // prettier-ignore
    const spread = (all: number[]) => {
      const mean = all.reduce((sum, v) => sum + v, 0) / all.length;
      return { mean, off: Math.sqrt(all.reduce((sum, v) => sum + (v - mean) ** 2, 0) / all.length) };
    };
    const [before, after] = [spread(alphas(beauty)), spread(alphas(clean))];
    expect(after.mean).toBeCloseTo(before.mean, 1);
    expect(after.off).toBeLessThan(before.off / 2);
    expect(clean[(16 * width + 34) * 4 + 3]).toBeGreaterThan(0.97);
  });
});

describe('light layers of a kept frame', () => {
  const floats = FILM_FLOATS + 6;
  const film = new Float32Array(2 * floats);
  // Two pixels: the key gives 1 and 0.5, the rim 0.25 of red only; their noise is a tenth of the light.
  for (const [k, key] of [1, 0.5].entries()) {
    const [at, lights] = [k * floats, k * floats + FILM_FLOATS];
    film.set([key + 0.25, key, key, 1], at);
    film.set([key, key, key, 0.25, 0, 0], lights);
    film[at + FILM_SQUARES] = 0.1;
  }
  const kept = { film, width: 2, height: 1, floats, layers: { lights: FILM_FLOATS }, groups: ['Key: left', 'Rim'], mattes: { parts: [], finishes: [] } }; // prettier-ignore
  const bytes = encodeFrame(kept, 'f'.repeat(64));
  const white: [number, number, number] = [1, 1, 1];

  it('are told by their names', () => {
    expect(lightLayers(readExrHeader(bytes).channels.map(({ name }) => name)).sort()).toEqual(['Key_left', 'Rim']);
  });

  it('are weighed anew in the picture, which is as it was where nothing is changed or known', () => {
    const plain = decodeFrame(bytes).beauty;
    expect([...plain]).toEqual([1.25, 1, 1, 1, 0.75, 0.5, 0.5, 1]);
    expect([...decodeFrame(bytes, undefined, { Gone: { power: 7, tint: white } }).beauty]).toEqual([...plain]);
    const balanced = decodeFrame(bytes, undefined, {
      Key_left: { power: 2, tint: [1, 0.5, 0] },
      Rim: { power: 0, tint: white },
    });
    expect([...balanced.beauty]).toEqual([2, 1, 0, 1, 1, 0.5, 0, 1]);
  });

  it('take their noise along', () => {
    const brighter = decodeFrame(bytes, undefined, { 'Key_left': { power: 3, tint: white }, 'Rim': { power: 3, tint: white } }); // prettier-ignore
    expect(brighter.guides!.noise![0]! / decodeFrame(bytes).guides!.noise![0]!).toBeCloseTo(3, 2);
  });
});

const kernel = readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm'));
const darkroom = await Darkroom.open(await WebAssembly.compile(kernel));
const develop = darkroom.develop.bind(darkroom);

describe('specks', () => {
  const share = (buckets: number[], samples = 50) => speckShare(new Float32Array(buckets), samples);

  it('are weighed down where one of five buckets holds nearly all the light', () => {
    expect(share([10, 10, 10, 10, 1000])).toBeLessThan(0.1);
    expect(share([0, 0, 0, 0, 7])).toBe(0);
  });

  it('are not seen in even light, in ordinary noise, or in too few samples', () => {
    expect(share([10, 10, 10, 10, 10])).toBe(1);
    expect(share([8, 11, 10, 12, 9])).toBe(1);
    expect(share([0, 0, 0, 0, 0])).toBe(1);
    expect(share([1, 1, 1, 1, 1000], 9)).toBe(1);
  });

  it('never brighten, also where the buckets do not hold the same number of samples', () => {
    for (const samples of [50, 51, 53]) expect(share([100, 1, 50, 3, 20], samples)).toBeLessThanOrEqual(1);
  });

  it('fade by their amount when a frame is developed, and their light goes to what is around them', () => {
    const pixels = 32 * 32;
    const middle = 16 * 32 + 16;
    const beauty = Float32Array.from({ length: pixels * 4 }, (_, k) => (k % 4 === 3 ? 1 : 0.1));
    const specks = new Float32Array(pixels).fill(1);
    beauty.fill(0.4, middle * 4, middle * 4 + 3);
    specks[middle] = 0.25;
    const lit: LinearFrame = { width: 32, height: 32, beauty, specks };
    const seen = [0, 0.5, 1].map((amount) => develop(lit, look({ specks: amount }))[middle * 4]!);
    expect(seen[0]).toBeGreaterThan(seen[1]!);
    expect(seen[1]).toBeGreaterThan(seen[2]!);
    const clean = darkroom.clean(lit, { specks: 1, denoise: 0 }).beauty;
    expect(clean[middle * 4]).toBeCloseTo(0.1, 3);
    const sum = (light: Float32Array) => light.reduce((total, v, k) => (k % 4 === 3 ? total : total + v), 0);
    expect(sum(clean) / sum(beauty)).toBeCloseTo(1, 5);
  });
});

describe('developing', () => {
  it('of a stop more doubles the light before the knee', () => {
    const [one] = develop(frame([0.1]), look({ exposure: 1 }));
    const [two] = develop(frame([0.2]), look());
    expect(Math.abs(one! - two!)).toBeLessThanOrEqual(1);
    expect(develop(frame([0.18]), look())[0]).toBeCloseTo(118, -0.5);
  });

  it('bloom spreads bright light and keeps the sum', () => {
    const values = new Array(61 * 61).fill(0);
    values[30 * 61 + 30] = 14;
    const dark = develop(frame(values, 61), look());
    const glowing = develop(frame(values, 61), look({ bloomAmount: 0.8, bloomRadius: 0.1, bloomThreshold: 0 }));
    const near = (30 * 61 + 33) * 4;
    expect(dark[near]).toBe(0);
    expect(glowing[near]).toBeGreaterThan(10);
  });

  it('keeps alpha straight', () => {
    const half = { width: 1, height: 1, beauty: new Float32Array([0.1, 0.1, 0.1, 0.5]) };
    const [r, , , a] = develop(half, look());
    expect(a).toBe(128);
    expect(Math.abs(r! - develop(frame([0.2]), look())[0]!)).toBeLessThanOrEqual(1);
  });
});
