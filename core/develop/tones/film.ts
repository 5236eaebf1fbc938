import type { Tone } from './tone';

/** Light that becomes full white. */
const WHITE = 11.2;
const EXPOSED = 2;

const curve = (x: number): number => (x * (0.15 * x + 0.05) + 0.004) / (x * (0.15 * x + 0.5) + 0.06) - 0.02 / 0.3;

/** Shoulder, linear part and toe of a film (J. Hable, Filmic Tonemapping Operators, 2010). */
export const film: Tone = {
  title: 'Film',
  says: 'A long shoulder and a soft toe, as film has them',
  each: (light) => curve(EXPOSED * Math.max(0, light)) / curve(WHITE),
};
