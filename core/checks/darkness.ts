import type { Check } from './check';

/** Neither a lamp nor the surroundings shine. */
export const darkness: Check<object> = ({ lights, set }) => {
  const lit = Object.values(lights).some((light) => light.on) || set.surroundings.brightness > 0;
  return lit ? [] : [{}];
};
