import { length, subtract, type Vector } from '../geometry';

/** Keys of a sweep at most: a drag gives far more places than its way needs. */
const MOST_KEYS = 12;

/**
 * Of places that were passed one after another those that tell the way, each with the frame on which it is passed at even speed.
 * @param points along the way @param first and @param last frames of its ends, whole numbers
 * @returns positions in `points` with frames, ascending; fewer than two where nothing was moved
 */
export function spreadAlong(points: readonly Vector[], first: number, last: number): { at: number; frame: number }[] {
  const passed = [0];
  for (let k = 1; k < points.length; k++) passed.push(passed[k - 1]! + length(subtract(points[k]!, points[k - 1]!)));
  const whole = passed.at(-1) ?? 0;
  if (!(whole > 0) || last <= first) return [];
  const keys: { at: number; frame: number }[] = [];
  for (let k = 0; k < MOST_KEYS; k++) {
    const wanted = (whole * k) / (MOST_KEYS - 1);
    const at = nearest(passed, wanted);
    const frame = first + Math.round(((last - first) * passed[at]!) / whole);
    if (keys.length === 0 || (at > keys.at(-1)!.at && frame > keys.at(-1)!.frame)) keys.push({ at, frame });
  }
  return keys;
}

/** Position of the value that is nearest to one, of ascending values; of equal ones the last. */
function nearest(values: readonly number[], wanted: number): number {
  let best = 0;
  values.forEach((value, k) => {
    if (Math.abs(value - wanted) <= Math.abs(values[best]! - wanted)) best = k;
  });
  return best;
}
