import { SOURCE_WEAR } from '@zippy/kernel/layout';
import { choice, count, length, share } from '../../document/properties/property';
import { mapSource } from './kind';

const WHERE = ['edges', 'hollows', 'both'] as const;

/** Bright along edges that stand out, or in hollows, by the shape of the part itself. */
export const wear = mapSource(
  'wear',
  {
    along: choice(WHERE, 'edges'),
    /** How far it reaches from the edge. */
    width: length(2, { min: 0.001, max: 1000, step: 0.1 }),
    /** How far grain eats into it. */
    breakup: share(0.5),
    /** From one bite of the grain to the next. */
    grain: length(3, { min: 0.001, max: 1e6, step: 0.1 }),
    seed: count(1, { max: 1_000_000 }),
  },
  {
    title: 'Wear',
    code: SOURCE_WEAR,
    parameters: ({ along, width, breakup, grain, seed }) => [WHERE.indexOf(along), width, breakup, 1 / grain, seed],
  },
);
