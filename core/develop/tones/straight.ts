import type { Tone } from './tone';

export const straight: Tone = {
  title: 'Straight',
  says: 'As it is, cut at white: to measure by',
  each: (light) => light,
};
