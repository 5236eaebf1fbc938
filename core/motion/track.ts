import type { Key, PropertyKind, Value } from '../document';
import { blendValues, paced } from './moves';

/** The value of a track at a frame: held before the first key and after the last. `keys` is sorted by frame and not empty. */
export function trackValue(keys: readonly Key[], frame: number, kind: PropertyKind): Value {
  let after = keys.findIndex((key) => key.frame > frame);
  if (after < 0) after = keys.length;
  const from = keys[Math.max(0, after - 1)]!;
  const to = keys[after];
  if (!to || frame <= from.frame) return from.value;
  const t = paced(from.pace, (frame - from.frame) / (to.frame - from.frame));
  return blendValues(from.value, to.value, t, kind === 'rotation');
}
