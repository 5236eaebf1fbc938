import type { ShelfFinish } from './entry';
import { grey, hex, made, maps } from './entry';

const lens = (name: string, code: string, transmissionDepth: number): ShelfFinish => ({
  name,
  baseColor: grey(1),
  transmissionWeight: 1,
  specularRoughness: 0.1,
  specularIor: 1.49,
  transmissionColor: hex(code),
  transmissionDepth,
});
const light = (
  name: string,
  emissionPower: number,
  emissionKelvin: number,
  over: Partial<ShelfFinish> = {},
): ShelfFinish => ({
  name,
  baseColor: grey(0.4),
  emissionPower,
  emissionKelvin,
  ...over,
});

export const lenses: readonly ShelfFinish[] = [
  lens('Red lamp lens', '#d81a10', 14),
  lens('Amber lamp lens', '#f08a0c', 14),
  lens('Ribbed clear lens', '#ffffff', 0),
  lens('Milky diffuser', '#fff6e8', 0),
].map((each) =>
  each.name.startsWith('Ribbed')
    ? {
        ...each,
        specularRoughness: 0.02,
        maps: maps(
          made('height', 'gradient', {}, { projection: 'box', size: [3, 3, 3], tiling: 'mirror', curve: 0.7, high: 0.6 }),
        ),
      }
    : each.name.startsWith('Milky')
      ? { ...each, specularRoughness: 0.5, transmissionDepth: 6, transmissionScatter: [0.7, 0.7, 0.7] as [number, number, number] }
      : each,
); // prettier-ignore

export const lights: readonly ShelfFinish[] = [
  light('Warm light', 20, 2700),
  light('Neutral light', 20, 4000),
  light('Cool light', 20, 6500),
  light('Candle glow', 12, 1900),
  light('Red indicator', 300, 4000, { emissionUnit: 'nit', emissionColor: [1, 0.02, 0.01] }),
  light('Green indicator', 300, 4000, { emissionUnit: 'nit', emissionColor: [0.03, 1, 0.15] }),
  light('Glowing edge', 400, 5000, {
    emissionUnit: 'nit',
    emissionColor: [0.2, 0.7, 1],
    maps: maps(made('emissionColor', 'facing', {}, { low: 1, high: 0.05, curve: 0.6 })),
  }),
];

export const screens: readonly ShelfFinish[] = [
  {
    name: 'Screen, off',
    baseColor: [0.006, 0.006, 0.007],
    specularRoughness: 0.03,
    specularIor: 1.52,
  },
  {
    name: 'Screen, lit',
    baseColor: [0.006, 0.006, 0.007],
    specularRoughness: 0.03,
    emissionUnit: 'nit',
    emissionPower: 350,
    emissionKelvin: 6500,
  },
  {
    name: 'Paper-like display',
    baseColor: grey(0.62),
    specularRoughness: 0.5,
    specularWeight: 0.5,
  },
];

export const special: readonly ShelfFinish[] = [
  { name: 'Mirror', baseColor: grey(0.97), baseMetalness: 1, specularRoughness: 0 },
  { name: 'Mid grey', baseColor: grey(0.18), specularWeight: 0 },
  {
    name: 'Soap film',
    baseColor: grey(1),
    transmissionWeight: 1,
    specularRoughness: 0,
    thinWalled: true,
    thinFilmWeight: 1,
    thinFilmThickness: 0.38,
    thinFilmIor: 1.33,
    maps: maps(made('thinFilmThickness', 'noise', { scale: 18, octaves: 3 }, { low: 0.5, high: 1.6 })),
  },
];
