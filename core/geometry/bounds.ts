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

/** Bounds of xyz triples. */
export function boundsOfPositions(positions: ArrayLike<number>): Bounds {
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let at = 0; at + 2 < positions.length; at += 3) {
    const x = positions[at]!;
    const y = positions[at + 1]!;
    const z = positions[at + 2]!;
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    z0 = Math.min(z0, z);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
    z1 = Math.max(z1, z);
  }
  return { low: [x0, y0, z0], high: [x1, y1, z1] };
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

export function unite(into: Bounds, other: Bounds): void {
  if (isEmpty(other)) return;
  growToPoint(into, other.low);
  growToPoint(into, other.high);
}
