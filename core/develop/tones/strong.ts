import { kneeCurve } from './knee';
import type { Tone } from './tone';

export const strong: Tone = {
  title: 'Strong',
  says: 'More contrast about middle grey',
  each: kneeCurve(0.7, 1.28),
};
