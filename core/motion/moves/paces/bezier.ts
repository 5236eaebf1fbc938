/** y of the cubic Bézier (0,0) (x1,y1) (x2,y2) (1,1) at x, by bisection: x grows with the parameter as 0 <= x1, x2 <= 1. */
export function curveAt([x1, y1, x2, y2]: readonly [number, number, number, number], x: number): number {
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
