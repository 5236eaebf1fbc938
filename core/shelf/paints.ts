import type { ShelfFinish } from './entry';
import { grain, grey, hex, made, maps } from './entry';

const lacquer = (name: string, code: string, coatRoughness = 0.02): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness: 0.45,
  coatWeight: 1,
  coatRoughness,
});

/** Flakes that each catch the light another way, below a clear coat. */
const metallic = (name: string, code: string, flake = 0.35): ShelfFinish => ({
  name,
  baseColor: hex(code),
  baseMetalness: 0.9,
  specularRoughness: 0.38,
  coatWeight: 1,
  coatRoughness: 0.01,
  maps: maps(
    made('baseColor', 'noise', { pattern: 'flakes', scale: flake, octaves: 1 }, { low: 0.55, high: 1.5 }),
    made(
      'specularRoughness',
      'noise',
      { pattern: 'flakes', scale: flake, octaves: 1, seed: 9 },
      { low: 0.8, high: 1.2 },
    ),
  ),
});

const powder = (name: string, code: string): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness: 0.5,
  maps: maps(grain(0.9, 0.05)),
});

export const paints: readonly ShelfFinish[] = [
  lacquer('Ivory lacquer', '#e9dfc9'),
  lacquer('Pine lacquer', '#1d4044'),
  lacquer('Signal red', '#b3201b'),
  lacquer('Marigold', '#e8930f'),
  lacquer('Piano black', '#0b0b0c', 0.005),
  lacquer('Night blue satin', '#14233f', 0.25),
  lacquer('Sage matt', '#8b9a80', 0.5),
  metallic('Silver flake', '#b9bdc2'),
  metallic('Petrol flake', '#0f4a5e'),
  metallic('Copper flake', '#a8532c'),
  {
    name: 'White pearl',
    baseColor: hex('#eeeae2'),
    specularRoughness: 0.35,
    thinFilmWeight: 0.8,
    thinFilmThickness: 0.42,
    thinFilmIor: 1.7,
    coatWeight: 1,
    coatRoughness: 0.01,
    maps: maps(made('thinFilmThickness', 'facing', {}, { low: 1.25, high: 0.95 })),
  },
  {
    name: 'Turning violet',
    baseColor: hex('#2a1640'),
    baseMetalness: 0.7,
    specularRoughness: 0.3,
    coatWeight: 1,
    coatRoughness: 0.01,
    maps: maps(made('baseColor', 'facing', {}, { blend: 'over', shades: [{ at: 0, color: hex('#0d4b74') }, { at: 1, color: hex('#6a2a86') }] })),
  }, // prettier-ignore
  powder('Powder coat white', '#e9e8e4'),
  powder('Powder coat black', '#1a1a1b'),
  powder('Powder coat ochre', '#b98523'),
  {
    name: 'Worn toolbox red',
    baseColor: hex('#a3241b'),
    specularRoughness: 0.42,
    coatWeight: 0.6,
    coatRoughness: 0.2,
    maps: maps(
      made('baseColor', 'wear', { width: 1.6, breakup: 0.7, grain: 1.5 }, { blend: 'over', selfMasked: true, dark: 0.1, bright: 0.3, shades: [{ at: 0, color: grey(0.5) }, { at: 1, color: grey(0.5) }] }),
      made('baseMetalness', 'wear', { width: 1.6, breakup: 0.7, grain: 1.5 }, { blend: 'over', dark: 0.1, bright: 0.3 }),
      made('coatWeight', 'wear', { width: 1.6, breakup: 0.7, grain: 1.5 }, { dark: 0.1, bright: 0.3, inverted: true }),
    ),
  }, // prettier-ignore
];
