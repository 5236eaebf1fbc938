import type { Value } from '../../document/properties/value';
import { mix, quaternionFromTurn, slerp, turnFromQuaternion, type Vector } from '../../geometry';

/**
 * `t` of the way from `a` to `b`. What has no values between, such as a switch, changes at the end of the way.
 * @param turns whether three numbers are angles
 */
export function blendValues(a: Value, b: Value, t: number, turns: boolean): Value {
  if (typeof a === 'number' && typeof b === 'number') return a + (b - a) * t;
  if (Array.isArray(a) && Array.isArray(b)) return turns ? blendTurns(a, b, t) : mix(a, b, t);
  return t >= 1 ? b : a;
}

/**
 * Turns that differ in one angle are a turn about one fixed axis, so the number itself travels: 0 to 720 degrees makes two
 * turns. Any other pair takes the shortest way between the two poses, free of gimbal lock.
 */
function blendTurns(a: Vector, b: Vector, t: number): [number, number, number] {
  const different = a.filter((angle, k) => Math.abs(angle - b[k]!) > 1e-9).length;
  if (different <= 1) return mix(a, b, t);
  return turnFromQuaternion(slerp(quaternionFromTurn(a), quaternionFromTurn(b), t));
}
