import type { ShelfFinish } from './entry';
import { grain, grey, hex, made, maps } from './entry';

const rubber = (name: string, code: string): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness: 0.72,
  specularWeight: 0.7,
  baseDiffuseRoughness: 0.5,
  maps: maps(grain(0.5, 0.015)),
});

/** Wrinkled between cells, as hide is. */
const leather = (name: string, code: string, dark: string): ShelfFinish => ({
  name,
  baseColor: grey(1),
  specularRoughness: 0.46,
  fuzzWeight: 0.1,
  fuzzRoughness: 0.6,
  maps: maps(
    made('baseColor', 'noise', { pattern: 'cracks', scale: 1.7, octaves: 2 }, { bright: 0.35, shades: [{ at: 0, color: hex(dark) }, { at: 1, color: hex(code) }] }),
    made('height', 'noise', { pattern: 'cracks', scale: 1.7, octaves: 2 }, { bright: 0.35, high: 0.12 }),
    made('specularRoughness', 'noise', { scale: 6, octaves: 3 }, { low: 0.8, high: 1.2 }),
  ),
}); // prettier-ignore

/** Threads over and under each other: two rows of rolls that cross. */
const woven = (name: string, code: string, thread: number, over: Partial<ShelfFinish> = {}): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness: 0.8,
  specularWeight: 0.3,
  baseDiffuseRoughness: 0.8,
  fuzzWeight: 0.35,
  fuzzColor: hex(code).map((v) => Math.min(1, v * 1.6 + 0.05)) as [number, number, number],
  fuzzRoughness: 0.5,
  maps: maps(
    ...([[1, 3], [3, 1]] as const).map(([repeatU, repeatV]) =>
      made('height', 'gradient', { shape: 'linear' }, { projection: 'box', size: [thread * 3, thread * 3, thread * 3], tiling: 'mirror', softness: 0.05, turn: repeatU > repeatV ? Math.PI / 2 : 0, repeatU: 3, repeatV: 3, curve: 0.6, high: thread * 0.22 })),
    made('baseColor', 'noise', { pattern: 'value', scale: thread * 1.5, octaves: 3 }, { low: 0.75, high: 1.2 }),
  ),
  ...over,
}); // prettier-ignore

export const rubbers: readonly ShelfFinish[] = [
  rubber('Black rubber', '#1b1b1c'),
  rubber('Grey rubber', '#6a6c6e'),
  rubber('Brick rubber', '#8f3b2a'),
  {
    name: 'Soft-touch coating',
    baseColor: hex('#33373b'),
    specularRoughness: 0.6,
    specularWeight: 0.8,
    fuzzWeight: 0.2,
    fuzzColor: grey(0.6),
    fuzzRoughness: 0.7,
  },
];

export const leathers: readonly ShelfFinish[] = [
  leather('Saddle leather', '#8a4f28', '#5a2f16'),
  leather('Black leather', '#232120', '#0e0d0d'),
  leather('Bone leather', '#d8c9ae', '#ab977a'),
  {
    name: 'Suede',
    baseColor: hex('#8d6e52'),
    specularWeight: 0.1,
    baseDiffuseRoughness: 1,
    fuzzWeight: 0.7,
    fuzzColor: hex('#c7a98a'),
    fuzzRoughness: 0.45,
    maps: maps(made('baseColor', 'noise', { scale: 5, octaves: 4 }, { low: 0.8, high: 1.2 })),
  },
];

export const fabrics: readonly ShelfFinish[] = [
  woven('Oat linen', '#cdbf9f', 0.9),
  woven('Slate canvas', '#4a545c', 1.3),
  woven('Speaker cloth', '#16171a', 0.7, { fuzzWeight: 0.15 }),
  woven('Mustard wool', '#c08a1e', 2.2, { fuzzWeight: 0.8 }),
  {
    name: 'Plum velvet',
    baseColor: hex('#3a1440'),
    specularWeight: 0,
    baseDiffuseRoughness: 1,
    fuzzWeight: 1,
    fuzzColor: hex('#c98bd6'),
    fuzzRoughness: 0.35,
  },
  {
    name: 'Grey felt',
    baseColor: hex('#7c7f80'),
    specularWeight: 0,
    baseDiffuseRoughness: 1,
    fuzzWeight: 0.6,
    fuzzColor: hex('#b5b7b7'),
    fuzzRoughness: 0.6,
    maps: maps(
      made('baseColor', 'noise', { pattern: 'value', scale: 2, octaves: 4, fineness: 0.7 }, { low: 0.7, high: 1.25 }),
      grain(0.8, 0.12, { octaves: 3 }),
    ),
  },
];
