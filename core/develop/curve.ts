import type { Look } from '../document';

type Points = Look['curves']['all'];

/**
 * The curve through points by cubic pieces that rise and fall only where the points do
 * (Fritsch and Carlson, Monotone Piecewise Cubic Interpolation, 1980); beyond the first and last point it is level.
 */
export function curveThrough(points: Points): (x: number) => number {
  const n = points.length;
  const slopes = points.slice(1).map(([x, y], k) => (y - points[k]![1]) / (x - points[k]![0]));
  const tangents = points.map((_, k) => {
    if (k === 0) return slopes[0]!;
    if (k === n - 1) return slopes[n - 2]!;
    return slopes[k - 1]! * slopes[k]! <= 0 ? 0 : (slopes[k - 1]! + slopes[k]!) / 2;
  });
  slopes.forEach((slope, k) => {
    if (slope === 0) tangents[k] = tangents[k + 1] = 0;
    else {
      const [a, b] = [tangents[k]! / slope, tangents[k + 1]! / slope];
      const size = Math.hypot(a, b);
      if (size > 3) [tangents[k], tangents[k + 1]] = [(3 * a * slope) / size, (3 * b * slope) / size];
    }
  });
  return (x) => {
    if (x <= points[0]![0]) return points[0]![1];
    if (x >= points[n - 1]![0]) return points[n - 1]![1];
    let k = 0;
    while (x > points[k + 1]![0]) k++;
    const [x0, y0] = points[k]!;
    const [x1, y1] = points[k + 1]!;
    const width = x1 - x0;
    const t = (x - x0) / width;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * y0 +
      (t3 - 2 * t2 + t) * width * tangents[k]! +
      (3 * t2 - 2 * t3) * y1 +
      (t3 - t2) * width * tangents[k + 1]!
    );
  };
}

/** Whether a curve leaves all values as they are. */
export const isStraight = (points: Points): boolean => points.every(([x, y]) => x === y) && points[0]![0] === 0 && points.at(-1)![0] === 1; // prettier-ignore
