import type { ShelfFinish } from './entry';
import { hex } from './entry';
import { clear } from './glass';

export const liquids: readonly ShelfFinish[] = [
  clear('Water', 1.333, { transmissionColor: [0.64, 0.93, 0.97], transmissionDepth: 1000 }),
  clear('Tea', 1.334, { transmissionColor: hex('#c2571a'), transmissionDepth: 40 }),
  clear('Olive oil', 1.468, { transmissionColor: hex('#c9b52c'), transmissionDepth: 25 }),
  clear('Honey', 1.49, { transmissionColor: hex('#e08a12'), transmissionDepth: 18 }),
  clear('Berry juice', 1.35, { transmissionColor: hex('#7d0f2e'), transmissionDepth: 30 }),
  clear('Milk', 1.35, {
    transmissionWeight: 0,
    subsurfaceWeight: 1,
    subsurfaceColor: hex('#f6f3ea'),
    subsurfaceRadius: 1.2,
    subsurfaceRadiusScale: [1, 0.85, 0.6],
    specularRoughness: 0.02,
  }),
];
