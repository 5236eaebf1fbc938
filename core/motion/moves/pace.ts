import type { Pace } from '../../document/properties/pace';

/**
 * How far a value has travelled, 0 to 1 (beyond with overshooting handles), at the part `t` (0 to 1) of its time.
 * `held` stays at 0 until the end.
 */
export function paced(pace: Pace, t: number): number {
  const u = Math.min(1, Math.max(0, t));
  if (typeof pace === 'object') return curveAt(pace.curve, u);
  switch (pace) {
    case 'linear':
      return u;
    case 'ease':
      return u * u * (3 - 2 * u);
    case 'ease-in':
      return u * u;
    case 'ease-out':
      return u * (2 - u);
    case 'held':
      return u >= 1 ? 1 : 0;
  }
}

/** y of the cubic Bézier (0,0) (x1,y1) (x2,y2) (1,1) at x, by bisection: x grows with the parameter as 0 <= x1, x2 <= 1. */
function curveAt([x1, y1, x2, y2]: readonly [number, number, number, number], x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const bezier = (a: number, b: number, s: number) =>
    3 * a * s * (1 - s) * (1 - s) + 3 * b * s * s * (1 - s) + s * s * s;
  let low = 0;
  let high = 1;
  for (let step = 0; step < 40; step++) {
    const middle = (low + high) / 2;
    if (bezier(x1, x2, middle) < x) low = middle;
    else high = middle;
  }
  return bezier(y1, y2, (low + high) / 2);
}
