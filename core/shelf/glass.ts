import type { ShelfFinish } from './entry';
import { grain, grey, hex, made, maps } from './entry';

/** What is clear through and through, of an index of refraction. */
export const clear = (name: string, specularIor: number, over: Partial<ShelfFinish> = {}): ShelfFinish => ({
  name,
  baseColor: grey(1),
  transmissionWeight: 1,
  specularRoughness: 0,
  specularIor,
  ...over,
});
/** What is left of white light after a way of some mm. */
const tinted = (name: string, code: string, transmissionDepth: number): ShelfFinish =>
  clear(name, 1.52, { transmissionColor: hex(code), transmissionDepth });
/** Colours taken apart as the number of Abbe tells. */
const dispersing = (name: string, index: number, abbe: number): ShelfFinish =>
  clear(name, index, { transmissionDispersionScale: 1, transmissionDispersionAbbeNumber: abbe });

export const glasses: readonly ShelfFinish[] = [
  clear('Clear glass', 1.52),
  clear('Thin pane', 1.52, { thinWalled: true }),
  clear('Green lens', 1.52, { thinWalled: true, transmissionColor: hex('#8fe0a8') }),
  tinted('Bottle green', '#2f7d4f', 34),
  tinted('Amber glass', '#b8621a', 30),
  tinted('Cobalt glass', '#1b3f9c', 34),
  tinted('Smoke glass', '#6d6864', 40),
  clear('Frosted glass', 1.52, { specularRoughness: 0.38 }),
  clear('Etched glass', 1.52, { specularRoughness: 0.2, maps: maps(grain(0.5, 0.02)) }),
  clear('Hammered glass', 1.52, {
    maps: maps(made('height', 'noise', { pattern: 'gradient', scale: 7, octaves: 1 }, { high: 0.9 })),
  }),
  clear('Opal glass', 1.5, {
    transmissionColor: hex('#f7f1e6'),
    transmissionDepth: 8,
    transmissionScatter: [0.9, 0.92, 0.95],
  }),
  dispersing('Heavy crystal', 1.728, 28.4),
  dispersing('Sapphire glass', 1.768, 72.2),
];
