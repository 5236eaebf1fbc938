import type { Color, ShelfFinish } from './entry';
import { grain, grey, hex, made, maps } from './entry';

/** Rings of a trunk that lies along x, cut open, with the fibres along it. */
const wood = (name: string, light: string, dark: string, over: Partial<ShelfFinish> = {}): ShelfFinish => ({
  name,
  baseColor: grey(1),
  specularRoughness: 0.5,
  specularIor: 1.5,
  maps: maps(
    made('baseColor', 'noise', { pattern: 'gradient', scale: 3.6, stretch: [14, 1, 2.6], octaves: 3, fineness: 0.45 }, { dark: 0.3, bright: 0.68, shades: [{ at: 0, color: hex(dark) }, { at: 0.55, color: hex(light) }, { at: 1, color: hex(light).map((v) => v * 1.12) as Color }] }),
    made('baseColor', 'noise', { pattern: 'value', scale: 0.35, stretch: [40, 1, 1], octaves: 2, seed: 5 }, { low: 0.82, high: 1.08 }),
    made('height', 'noise', { pattern: 'value', scale: 0.35, stretch: [40, 1, 1], octaves: 2, seed: 5 }, { high: 0.03 }),
  ),
  ...over,
}); // prettier-ignore

const glaze = (name: string, code: string, specularRoughness = 0.06): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness,
  specularIor: 1.55,
  subsurfaceWeight: 0.25,
  subsurfaceColor: hex(code),
  subsurfaceRadius: 0.8,
});

/** Veins of one colour in another, from noise that is folded where it crosses its middle. */
const veined = (name: string, ground: string, vein: string, specularRoughness: number): ShelfFinish => ({
  name,
  baseColor: grey(1),
  specularRoughness,
  maps: maps(
    made('baseColor', 'noise', { pattern: 'gradient', scale: 26, stretch: [1, 1.8, 1], octaves: 5, fineness: 0.55 }, { dark: 0.3, bright: 0.7, shades: [{ at: 0, color: hex(ground) }, { at: 0.42, color: hex(ground) }, { at: 0.5, color: hex(vein) }, { at: 0.56, color: hex(ground) }, { at: 1, color: hex(ground).map((v) => v * 0.82) as Color }] }),
  ),
}); // prettier-ignore

export const woods: readonly ShelfFinish[] = [
  wood('Oak, oiled', '#b98d58', '#8a5f34'),
  wood('Walnut', '#6d4529', '#3d2515'),
  wood('Maple, pale', '#d9bd92', '#bf9a68'),
  wood('Walnut, lacquered', '#6d4529', '#3d2515', { coatWeight: 1, coatRoughness: 0.03 }),
  wood('Black stained ash', '#2a2826', '#161514'),
  {
    name: 'Cork',
    baseColor: grey(1),
    specularRoughness: 0.8,
    specularWeight: 0.4,
    maps: maps(
      made('baseColor', 'noise', { pattern: 'flakes', scale: 2.4, octaves: 2 }, { shades: [{ at: 0, color: hex('#7d5634') }, { at: 0.3, color: hex('#b98e60') }, { at: 1, color: hex('#cda677') }] }),
      made('height', 'noise', { pattern: 'cracks', scale: 2.4, octaves: 1 }, { bright: 0.25, high: 0.12 }),
    ),
  },
]; // prettier-ignore

export const ceramics: readonly ShelfFinish[] = [
  glaze('White porcelain', '#eef0ef'),
  glaze('Celadon glaze', '#a9c4b1'),
  glaze('Ink blue glaze', '#1d2f5c'),
  {
    name: 'Terracotta',
    baseColor: hex('#b5623c'),
    specularWeight: 0.3,
    specularRoughness: 0.8,
    baseDiffuseRoughness: 0.9,
    maps: maps(made('baseColor', 'noise', { scale: 9, octaves: 5 }, { low: 0.82, high: 1.15 }), grain(0.7, 0.05, { octaves: 3 })),
  },
  {
    name: 'Speckled stoneware',
    baseColor: hex('#d6cfc0'),
    specularRoughness: 0.35,
    maps: maps(
      made('baseColor', 'noise', { pattern: 'flakes', scale: 1.1, octaves: 1 }, { dark: 0.93, bright: 0.96, shades: [{ at: 0, color: grey(1) }, { at: 1, color: [0.2, 0.13, 0.08] }] }),
      grain(3, 0.06),
    ),
  },
]; // prettier-ignore

export const waxes: readonly ShelfFinish[] = [
  {
    name: 'Candle wax',
    subsurfaceWeight: 1,
    subsurfaceColor: hex('#f3e3c2'),
    subsurfaceRadius: 5,
    specularRoughness: 0.42,
    specularIor: 1.44,
  },
  {
    name: 'Honey wax',
    subsurfaceWeight: 1,
    subsurfaceColor: hex('#d99a3c'),
    subsurfaceRadius: 4,
    specularRoughness: 0.38,
    specularIor: 1.44,
  },
  {
    name: 'Soap',
    subsurfaceWeight: 1,
    subsurfaceColor: hex('#cfe3d6'),
    subsurfaceRadius: 3,
    specularRoughness: 0.3,
    specularIor: 1.46,
  },
];

export const stones: readonly ShelfFinish[] = [
  veined('White marble', '#e6e3dc', '#8d8a86', 0.12),
  veined('Green marble', '#1e3a2d', '#9fb8a4', 0.1),
  {
    name: 'Grey granite',
    baseColor: grey(1),
    specularRoughness: 0.2,
    maps: maps(
      made('baseColor', 'noise', { pattern: 'flakes', scale: 1.8, octaves: 2, fineness: 0.7 }, { shades: [{ at: 0, color: hex('#2e2d2c') }, { at: 0.4, color: hex('#8d8985') }, { at: 1, color: hex('#d5cfc8') }] }),
    ),
  },
  {
    name: 'Sandstone',
    baseColor: hex('#c8a878'),
    specularWeight: 0.2,
    specularRoughness: 0.9,
    baseDiffuseRoughness: 1,
    maps: maps(
      made('baseColor', 'noise', { scale: 6, stretch: [5, 1, 5], octaves: 4 }, { low: 0.75, high: 1.2 }),
      grain(0.5, 0.1, { pattern: 'value', octaves: 3 }),
    ),
  },
  {
    name: 'Slate',
    baseColor: hex('#3b4247'),
    specularRoughness: 0.55,
    maps: maps(made('height', 'noise', { scale: 12, stretch: [1, 0.25, 1], octaves: 5, fineness: 0.55 }, { high: 0.7 })),
  },
  {
    name: 'Cast concrete',
    baseColor: hex('#9b9a96'),
    specularRoughness: 0.75,
    specularWeight: 0.4,
    baseDiffuseRoughness: 0.8,
    maps: maps(
      made('baseColor', 'noise', { scale: 22, octaves: 6, fineness: 0.6 }, { dark: 0.25, bright: 0.75, low: 0.75, high: 1.15 }),
      made('height', 'noise', { pattern: 'cells', scale: 5, octaves: 1 }, { bright: 0.18, high: 0.3 }),
      grain(0.6, 0.02, { octaves: 3 }),
    ),
  },
]; // prettier-ignore

export const papers: readonly ShelfFinish[] = [
  {
    name: 'White card',
    baseColor: grey(0.86),
    specularWeight: 0.25,
    specularRoughness: 0.8,
    baseDiffuseRoughness: 0.8,
    maps: maps(grain(0.35, 0.012, { octaves: 3 })),
  },
  {
    name: 'Brown board',
    baseColor: hex('#a9794c'),
    specularWeight: 0.2,
    specularRoughness: 0.85,
    baseDiffuseRoughness: 0.9,
    maps: maps(made('baseColor', 'noise', { pattern: 'value', scale: 0.5, stretch: [6, 1, 1], octaves: 3 }, { low: 0.82, high: 1.12 })),
  },
  { name: 'Chalk matte', baseColor: hex('#dcd8d0'), specularWeight: 0.1, specularRoughness: 1, baseDiffuseRoughness: 1 },
]; // prettier-ignore
