import { kneeCurve } from './knee';
import type { Tone } from './tone';

export const soft: Tone = {
  title: 'Soft',
  says: 'Rolls off early, with a little less contrast',
  each: kneeCurve(0.32, 0.95),
};
