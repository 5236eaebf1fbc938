import type { Key, PropertyKind, Value } from '../document';
import { blendValues, paced } from './moves';

/** The value of a track at a frame: held before the first key and after the last. `keys` is sorted by frame and not empty. */
export function trackValue(keys: readonly Key[], frame: number, kind: PropertyKind): Value {
  const after = firstAfter(keys, frame);
  const from = keys[Math.max(0, after - 1)]!;
  const to = keys[after];
  if (!to || frame <= from.frame) return from.value;
  const t = paced(from.pace, (frame - from.frame) / (to.frame - from.frame));
  return blendValues(from.value, to.value, t, kind === 'rotation');
}

/** Index of the first key after a frame, by bisection; the number of keys where there is none. */
function firstAfter(keys: readonly Key[], frame: number): number {
  let low = 0;
  let high = keys.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keys[middle]!.frame > frame) high = middle;
    else low = middle + 1;
  }
  return low;
}
