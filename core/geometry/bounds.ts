import type { Transform } from './transform';
import type { Vector } from './vector';

/** Axis-aligned box in millimetres. Empty while `low` exceeds `high`. */
export interface Bounds {
  low: [number, number, number];
  high: [number, number, number];
}

export const emptyBounds = (): Bounds => ({
  low: [Infinity, Infinity, Infinity],
  high: [-Infinity, -Infinity, -Infinity],
});

export const isEmpty = (bounds: Bounds): boolean => !(bounds.low[0] <= bounds.high[0]);

export function growToPoint(bounds: Bounds, point: Vector): void {
  for (let axis = 0; axis < 3; axis++) {
    bounds.low[axis] = Math.min(bounds.low[axis]!, point[axis]!);
    bounds.high[axis] = Math.max(bounds.high[axis]!, point[axis]!);
  }
}

/** Bounds of xyz triples; nothing but NaN where one of the numbers is none. */
export function boundsOfPositions(positions: ArrayLike<number>): Bounds {
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  let none = false;
  for (let at = 0; at + 2 < positions.length; at += 3) {
    const x = positions[at]!;
    const y = positions[at + 1]!;
    const z = positions[at + 2]!;
    // Several times as fast as the least and greatest of two, which mind what is no number.
    if (x < x0) x0 = x;
    if (y < y0) y0 = y;
    if (z < z0) z0 = z;
    if (x > x1) x1 = x;
    if (y > y1) y1 = y;
    if (z > z1) z1 = z;
    if (x !== x || y !== y || z !== z) none = true;
  }
  return none ? { low: [NaN, NaN, NaN], high: [NaN, NaN, NaN] } : { low: [x0, y0, z0], high: [x1, y1, z1] };
}

export const centreOf = ({ low, high }: Bounds): [number, number, number] => [
  (low[0] + high[0]) / 2,
  (low[1] + high[1]) / 2,
  (low[2] + high[2]) / 2,
];

/** Radius of the sphere through the corners. */
export const halfDiagonal = ({ low, high }: Bounds): number =>
  Math.hypot(high[0] - low[0], high[1] - low[1], high[2] - low[2]) / 2;

export function corners({ low, high }: Bounds): Vector[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map((corner) => [
    (corner & 1 ? high : low)[0],
    (corner & 2 ? high : low)[1],
    (corner & 4 ? high : low)[2],
  ]);
}

export function transformBounds(bounds: Bounds, m: Transform): Bounds {
  const result = emptyBounds();
  if (isEmpty(bounds)) return result;
  for (let axis = 0; axis < 3; axis++) {
    // Each side of the old box pulls one corner of the new one to either end (Arvo, Transforming Axis-Aligned Bounding Boxes, 1990).
    let [low, high] = [m[axis * 4 + 3]!, m[axis * 4 + 3]!];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [m[axis * 4 + k]! * bounds.low[k]!, m[axis * 4 + k]! * bounds.high[k]!];
      low += Math.min(a, b);
      high += Math.max(a, b);
    }
    result.low[axis] = low;
    result.high[axis] = high;
  }
  return result;
}

/** Bounds of xyz triples once they are transformed: tight also where they are turned, unlike those of their turned box. */
export function boundsOfTransformed(positions: ArrayLike<number>, m: Transform): Bounds {
  const [a, b, c, d, e, f, g, h, i, j, k, l] = m;
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let at = 0; at + 2 < positions.length; at += 3) {
    const [x, y, z] = [positions[at]!, positions[at + 1]!, positions[at + 2]!];
    const [u, v, w] = [a * x + b * y + c * z + d, e * x + f * y + g * z + h, i * x + j * y + k * z + l];
    x0 = Math.min(x0, u);
    y0 = Math.min(y0, v);
    z0 = Math.min(z0, w);
    x1 = Math.max(x1, u);
    y1 = Math.max(y1, v);
    z1 = Math.max(z1, w);
  }
  return { low: [x0, y0, z0], high: [x1, y1, z1] };
}

/** Whether every axis goes over into an axis, so that boxes stay boxes. */
export const keepsAxes = (m: Transform): boolean =>
  [0, 4, 8].every((row) => [m[row]!, m[row + 1]!, m[row + 2]!].filter((v) => Math.abs(v) > 1e-12).length <= 1);

export function unite(into: Bounds, other: Bounds): void {
  if (isEmpty(other)) return;
  growToPoint(into, other.low);
  growToPoint(into, other.high);
}
