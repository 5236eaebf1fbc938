import { kneeCurve } from './knee';
import type { Tone } from './tone';

export const neutral: Tone = {
  title: 'Neutral',
  says: 'As it is up to bright tones, which roll off softly',
  each: kneeCurve(0.62, 1),
};
