import { newFinish, type Finish } from '@zippy/core/document';
import { linearFromHex } from '@zippy/core/optics';

/** As what a finish is dragged from the shelf. */
export const FINISH_DRAG = 'application/x-zippy-finish';

const color = (hex: string): [number, number, number] => linearFromHex(hex)!;
const metal = (name: string, hex: string, specularRoughness: number): Partial<Finish> => ({
  name,
  baseColor: color(hex),
  baseMetalness: 1,
  specularRoughness,
});
const plastic = (name: string, hex: string, specularRoughness: number): Partial<Finish> => ({
  name,
  baseColor: color(hex),
  specularRoughness,
});
const paint = (name: string, hex: string, coatRoughness = 0.03): Partial<Finish> => ({
  name,
  baseColor: color(hex),
  specularRoughness: 0.45,
  coatWeight: 1,
  coatRoughness,
});
const glass = (name: string, tint: string, over: Partial<Finish> = {}): Partial<Finish> => ({
  name, baseColor: [1, 1, 1], specularRoughness: 0, transmissionWeight: 1, transmissionColor: color(tint), ...over,
}); // prettier-ignore

/** Finishes to start from, by family. */
export const FINISH_SHELF: { family: string; finishes: Partial<Finish>[] }[] = [
  {
    family: 'Plastic',
    finishes: [
      plastic('White gloss', '#f1f0ec', 0.12),
      plastic('Black satin', '#1b1b1d', 0.38),
      plastic('Grey grained', '#7b7d80', 0.6),
      plastic('Coral gloss', '#f0552f', 0.15),
    ],
  },
  {
    family: 'Paint',
    finishes: [
      paint('Ivory lacquer', '#e9dfc9'),
      paint('Pine lacquer', '#1d4044'),
      paint('Signal red', '#b3201b'),
      paint('Night blue satin', '#14233f', 0.25),
    ],
  },
  {
    family: 'Metal',
    finishes: [
      metal('Polished steel', '#c8cbce', 0.08),
      metal('Satin aluminium', '#dcdedf', 0.32),
      metal('Gold', '#ffcf78', 0.14),
      metal('Copper', '#f2a27c', 0.18),
    ],
  },
  {
    family: 'Glass',
    finishes: [
      glass('Clear glass', '#ffffff'),
      glass('Thin pane', '#ffffff', { thinWalled: true }),
      glass('Green lens', '#8fe0a8', { thinWalled: true }),
      glass('Frosted', '#ffffff', { specularRoughness: 0.35 }),
    ],
  },
  {
    family: 'Soft',
    finishes: [
      plastic('Rubber', '#202021', 0.85),
      { name: 'Chalk matte', baseColor: color('#dcd8d0'), specularWeight: 0.1, specularRoughness: 1 },
    ],
  },
  {
    family: 'Light',
    finishes: [
      { name: 'Warm light', emissionPower: 20, emissionKelvin: 2700 },
      { name: 'Cool light', emissionPower: 20, emissionKelvin: 6500 },
    ],
  },
];

/** A finish of the shelf as a new entry of a document. */
export const fromShelf = (shelf: Partial<Finish>): Finish => newFinish(shelf);
