import type { Key, Value, Vector3 } from '../document';
import type { PropertyKind } from '../document';
import { mix, quaternionFromTurn, slerp, turnFromQuaternion } from '../geometry';
import { paced } from './pace';

/** The value of a track at a frame: held before the first key and after the last. `keys` is sorted by frame and not empty. */
export function trackValue(keys: readonly Key[], frame: number, kind: PropertyKind): Value {
  let after = keys.findIndex((key) => key.frame > frame);
  if (after < 0) after = keys.length;
  const from = keys[Math.max(0, after - 1)]!;
  const to = keys[after];
  if (!to || frame <= from.frame) return from.value;
  const t = paced(from.pace, (frame - from.frame) / (to.frame - from.frame));
  return blendValues(from.value, to.value, t, kind);
}

/** `t` of the way from `a` to `b`. Booleans change at the end of the way. */
export function blendValues(a: Value, b: Value, t: number, kind: PropertyKind): Value {
  if (typeof a === 'number' && typeof b === 'number') return a + (b - a) * t;
  if (Array.isArray(a) && Array.isArray(b)) return kind === 'rotation' ? blendTurns(a, b, t) : mix(a, b, t);
  return t >= 1 ? b : a;
}

/**
 * Turns that differ in one angle are a turn about one fixed axis, so the number itself travels: 0 to 720 degrees makes two
 * turns. Any other pair takes the shortest way between the two poses, free of gimbal lock.
 */
function blendTurns(a: Vector3, b: Vector3, t: number): Vector3 {
  const different = a.filter((angle, k) => Math.abs(angle - b[k]!) > 1e-9).length;
  if (different <= 1) return mix(a, b, t);
  return turnFromQuaternion(slerp(quaternionFromTurn(a), quaternionFromTurn(b), t));
}
