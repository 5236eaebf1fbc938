// What a path carries: the part of the light found from now on that reaches the camera. Written by the functions here alone.

import { draw1 } from '../sampler';

const ONE: f32 = 1;

export let throughR: f32 = 1;
export let throughG: f32 = 1;
export let throughB: f32 = 1;
/** Brightest that one contribution may be, 0 for no limit. */
export let limit: f32 = 0;
/**
 * What a path may be expected to carry here: less where it was led towards a lamp, as it will meet more light than others, and less
 * in dense matter, where light is brighter. Only beneath that is it dim.
 */
export let expected: f32 = 1;
/** Wavelength of the path in nm, 0 while it carries all. */
export let nanometres: f32 = 0;

/** Begins a path at the camera. */
export function carryAll(): void {
  setCarried(1, 1, 1, 1, 0);
  limit = 0;
}

/** Takes a path up as it was. */
export function setCarried(r: f32, g: f32, b: f32, expectation: f32, wavelength: f32): void {
  throughR = r;
  throughG = g;
  throughB = b;
  expected = expectation;
  nanometres = wavelength;
}

/** Takes what something on the way leaves of each channel. */
export function carry(r: f32, g: f32, b: f32): void {
  throughR *= r;
  throughG *= g;
  throughB *= b;
}

export function setLimit(most: f32): void {
  limit = most;
}

export function expect(share: f32): void {
  expected *= share;
}

/** Narrows the path to one wavelength. Windows of the three channels each have a mean weight of one over 400 to 700 nm. */
export function takeApart(u: f32): void {
  nanometres = 400 + 300 * u;
  carry(window(610, 90), window(545, 75), window(450, 50));
}

function window(centre: f32, half: f32): f32 {
  return max<f32>(0, ONE - abs(nanometres - centre) / half) * (<f32>300 / half);
}

/** Ends dim paths by chance; what goes on carries more. */
export function survives(): bool {
  const live = min<f32>(0.95, max(throughR, max(throughG, throughB)) / expected);
  if (draw1() >= live || !(live > 0)) return false;
  const inv = ONE / live;
  carry(inv, inv, inv);
  return true;
}
