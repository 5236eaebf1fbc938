import type { ShelfFinish } from './entry';
import { grain, grey, hex, made, maps } from './entry';

/** Index of ABS. */
const ABS = 1.53;
const plastic = (
  name: string,
  code: string,
  specularRoughness: number,
  over: Partial<ShelfFinish> = {},
): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularRoughness,
  specularIor: ABS,
  ...over,
});
/** Light goes in and comes out beside: what a millimetre of it lets through. */
const cloudy = (name: string, code: string, radius: number, specularRoughness = 0.3): ShelfFinish => ({
  name,
  subsurfaceWeight: 1,
  subsurfaceColor: hex(code),
  subsurfaceRadius: radius,
  subsurfaceRadiusScale: [1, 0.8, 0.6],
  specularRoughness,
  specularIor: ABS,
});

export const plastics: readonly ShelfFinish[] = [
  plastic('White gloss', '#f1f0ec', 0.1),
  plastic('Black gloss', '#111113', 0.08),
  plastic('Coral gloss', '#f0552f', 0.12),
  plastic('Black satin', '#1b1b1d', 0.36),
  plastic('Mint satin', '#a9d6c3', 0.36),
  plastic('Warm grey satin', '#8d8780', 0.4),
  plastic('Charcoal, fine grain', '#2a2b2d', 0.5, { maps: maps(grain(0.35, 0.02)) }),
  plastic('Light grey, coarse grain', '#b9bab8', 0.5, { maps: maps(grain(1.1, 0.09, { octaves: 3 })) }),
  plastic('Recycled speckle', '#c9c8c2', 0.5, {
    maps: maps(
      made(
        'baseColor',
        'noise',
        { pattern: 'flakes', scale: 1.4, octaves: 1 },
        {
          dark: 0.86,
          bright: 0.93,
          shades: [
            { at: 0, color: [1, 1, 1] },
            { at: 1, color: [0.18, 0.2, 0.24] },
          ],
        },
      ),
    ),
  }),
  cloudy('Milky translucent', '#f3efe6', 3),
  cloudy('Lychee translucent', '#f0b8b2', 4),
  cloudy('Glow-through silicone', '#f7f3ea', 8, 0.55),
  {
    name: 'Clear acrylic',
    baseColor: grey(1),
    transmissionWeight: 1,
    specularRoughness: 0.01,
    specularIor: 1.49,
  },
  {
    name: 'Frosted polycarbonate',
    baseColor: grey(1),
    transmissionWeight: 1,
    specularRoughness: 0.4,
    specularIor: 1.585,
  },
  {
    name: 'Smoked acrylic',
    baseColor: grey(1),
    transmissionWeight: 1,
    specularRoughness: 0.01,
    specularIor: 1.49,
    transmissionColor: hex('#5b5550'),
    transmissionDepth: 26,
  },
];
