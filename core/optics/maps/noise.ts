import { SOURCE_NOISE } from '@zippy/kernel/layout';
import { choice, count, length, share, vector } from '../../document/properties/property';
import { mapSource } from './kind';

const PATTERNS = ['value', 'gradient', 'cells', 'cracks', 'flakes'] as const;

/** Grain without end that never repeats: soft or billowing, of cells, of the cracks between them, or of flakes of one value each. */
export const noise = mapSource(
  'noise',
  {
    pattern: choice(PATTERNS, 'gradient'),
    /** From one light spot to the next. */
    scale: length(10, { min: 0.001, max: 1e6, step: 0.5 }),
    /** By which it is drawn out along the three axes of what it is laid by. */
    stretch: vector([1, 1, 1], { min: 0.01, max: 1000, step: 0.1 }),
    /** Layers of ever finer grain, each half as wide as the one before, */
    octaves: count(3, { min: 1, max: 8 }),
    /** and how strong each is beside the one before. */
    fineness: share(0.5),
    seed: count(1, { max: 1_000_000 }),
  },
  {
    title: 'Noise',
    code: SOURCE_NOISE,
    parameters: ({ pattern, scale, stretch, octaves, fineness, seed }) => [
      PATTERNS.indexOf(pattern),
      ...stretch.map((along) => 1 / (scale * along)),
      octaves,
      fineness,
      seed,
    ],
  },
);
