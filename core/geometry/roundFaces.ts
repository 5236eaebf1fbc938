import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { EigenvalueDecomposition, Matrix, solve } from 'ml-matrix';
import { add, dot, frameAlong, normalize, scale, subtract, type Vector } from './vector';

/** A circle in space that points were fitted to. */
export interface FittedCircle {
  center: [number, number, number];
  /** Unit normal of its plane. */
  axis: [number, number, number];
  radius: number;
  /** Root of the mean square distance of the points from it, in their unit. */
  residual: number;
}

/** A line about which a face is round. */
export interface FittedAxis {
  kind: 'cylinder' | 'cone' | 'flat';
  /** Point of the line that is nearest to the middle of the face. */
  point: [number, number, number];
  /** Unit direction. */
  direction: [number, number, number];
  /** At that point; of a flat face, of its border. */
  radius: number;
  /** Radians between the line and the surface; 0 of a cylinder. */
  slope: number;
  /** Root of the mean square distance of the face's points from the fitted surface, in their unit. */
  residual: number;
}

/** Points are thinned to this many before they are fitted: more make it slower and no truer. */
const MOST_POINTS = 500;
/** The smallest part of the largest spread of normals that makes a face round, not flat. */
const FLAT = 1e-5;
/** A surface whose radius is this many times its extent is too flat to tell an axis of. */
const MOST_RADIUS = 50;

const mean = (points: readonly Vector[]): Vector =>
  scale(
    points.reduce<Vector>((sum, point) => add(sum, point), [0, 0, 0]),
    1 / points.length,
  );

/** Principal directions of points about their mean, the least spread first. */
function principal(points: readonly Vector[], center: Vector): { directions: Vector[]; spreads: number[] } {
  const sums = Matrix.zeros(3, 3);
  for (const point of points) {
    const d = subtract(point, center);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) sums.set(i, j, sums.get(i, j) + (d[i]! * d[j]!) / points.length);
  }
  const { eigenvectorMatrix, realEigenvalues } = new EigenvalueDecomposition(sums, { assumeSymmetric: true });
  return {
    directions: [0, 1, 2].map((k) => eigenvectorMatrix.getColumn(k) as [number, number, number]),
    spreads: realEigenvalues,
  };
}

/**
 * The circle nearest to points in space: the plane of their least spread, and in it the circle of least algebraic distance
 * (Kåsa, A circle fitting procedure and its error analysis, 1976). Null for points that are too few, on a line or at one place.
 */
export function fitCircle(points: readonly Vector[]): FittedCircle | null {
  if (points.length < 3) return null;
  const middle = mean(points);
  const { directions, spreads } = principal(points, middle);
  const extent = Math.sqrt(Math.max(0, spreads[2]!));
  if (!(spreads[1]! > 1e-10 * spreads[2]!)) return null;
  const [axis, x, y] = [directions[0]!, directions[1]!, directions[2]!];
  const flat = points.map((point) => {
    const d = subtract(point, middle);
    return [dot(d, x) / extent, dot(d, y) / extent] as const;
  });
  let found: number[];
  try {
    const left = new Matrix(flat.map(([u, v]) => [2 * u, 2 * v, 1]));
    found = solve(left, Matrix.columnVector(flat.map(([u, v]) => u * u + v * v)), true).getColumn(0);
  } catch {
    return null;
  }
  const [u, v, rest] = found as [number, number, number];
  const square = rest + u * u + v * v;
  if (!(square > 0) || !Number.isFinite(square)) return null;
  const radius = Math.sqrt(square) * extent;
  const center = add(middle, add(scale(x, u * extent), scale(y, v * extent)));
  const residual = rootMeanSquare(points, (point) => {
    const d = subtract(point, center);
    const height = dot(d, axis);
    return Math.hypot(height, Math.hypot(...subtract(d, scale(axis, height))) - radius);
  });
  return { center, axis: [...axis], radius, residual };
}

const rootMeanSquare = (points: readonly Vector[], distance: (point: Vector, k: number) => number): number =>
  Math.sqrt(points.reduce((sum, point, k) => sum + distance(point, k) ** 2, 0) / points.length);

/**
 * The axis of a round face by least squares: of the cylinder or cone that its points are nearest to, or, of a flat face, the
 * line across it through the middle of its round border.
 * @param points of the face, with a normal each
 * @param border points of the face's border, for flat faces
 * @returns null where the face is neither
 */
export function fitAxis(
  points: readonly Vector[],
  normals: readonly Vector[],
  border: readonly Vector[] = points,
): FittedAxis | null {
  if (points.length < 4) return null;
  const step = Math.max(1, Math.floor(points.length / MOST_POINTS));
  const some = points.filter((_, k) => k % step === 0);
  const directions = normals.filter((_, k) => k % step === 0);
  const middle = mean(some);
  const size = rootMeanSquare(some, (point) => Math.hypot(...subtract(point, middle)));
  if (!(size > 0)) return null;
  // All normals of a cylinder or cone make one angle with its axis: their spread along it is nothing.
  const spread = principal(directions, mean(directions));
  if (spread.spreads[2]! < FLAT) return flatAxis(border, mean(directions));
  const unit = some.map((point) => scale(subtract(point, middle), 1 / size));
  const starts = [spread.directions[0]!, spread.directions[1]!];
  const fits = starts.flatMap((start) => [fitSurface(unit, start, false), fitSurface(unit, start, true)]);
  const [cylinder, cone] = [best(fits.filter((fit) => fit.slope === 0)), best(fits.filter((fit) => fit.slope !== 0))];
  // A cone fits every cylinder; it is one only where that is much the better.
  const found = cone && (!cylinder || cone.residual < 0.3 * cylinder.residual - 1e-6) ? cone : cylinder;
  if (!found || !(found.radius < MOST_RADIUS) || !(found.residual < 0.25 * Math.max(found.radius, 0.1))) return null;
  return {
    kind: found.slope === 0 ? 'cylinder' : 'cone',
    point: add(middle, scale(found.point, size)),
    direction: found.direction,
    radius: found.radius * size,
    slope: found.slope,
    residual: found.residual * size,
  };
}

function flatAxis(border: readonly Vector[], normal: Vector): FittedAxis | null {
  const circle = fitCircle(border);
  if (!circle || circle.residual > 0.02 * circle.radius) return null;
  const { center, radius, residual } = circle;
  return { kind: 'flat', point: center, direction: normalize(normal), radius, slope: 0, residual };
}

type Fit = Omit<FittedAxis, 'kind'>;

const best = (fits: Fit[]): Fit | undefined =>
  fits.filter((fit) => Number.isFinite(fit.residual) && fit.radius > 0).sort((a, b) => a.residual - b.residual)[0];

/** The cylinder, or cone, nearest to points about the origin, from a first guess of its axis (Levenberg and Marquardt). */
function fitSurface(points: readonly Vector[], start: Vector, cone: boolean): Fit {
  const { x, y, z } = frameAlong(start);
  const lay = ([tiltX, tiltY, offX, offY]: readonly number[]) => ({
    direction: normalize(add(z, add(scale(x, tiltX!), scale(y, tiltY!)))),
    point: add(scale(x, offX!), scale(y, offY!)),
  });
  const distances = (parameters: readonly number[]) => {
    const { direction, point } = lay(parameters);
    const [radius, rise] = [parameters[4]!, parameters[5] ?? 0];
    const across = Math.sqrt(1 + rise * rise);
    return points.map((each) => {
      const d = subtract(each, point);
      const height = dot(d, direction);
      return (Math.hypot(...subtract(d, scale(direction, height))) - radius - rise * height) / across;
    });
  };
  const first = fitCircle(points.map((each) => subtract(each, scale(z, dot(each, z)))));
  const [offX, offY] = first ? [dot(first.center, x), dot(first.center, y)] : [0, 0];
  const initialValues = [0, 0, offX, offY, first?.radius ?? 1, ...(cone ? [0.2] : [])];
  const numbers = points.map((_, k) => k);
  let found = initialValues;
  const starts = cone ? [initialValues, [...initialValues.slice(0, 5), -0.2]] : [initialValues];
  let least = Infinity;
  for (const values of starts) {
    try {
      const { parameterValues } = levenbergMarquardt(
        { x: numbers, y: numbers.map(() => 0) },
        (parameters) => {
          const all = distances(parameters);
          return (k: number) => all[k]!;
        },
        {
          initialValues: values,
          gradientDifference: 1e-6,
          centralDifference: true,
          maxIterations: 60,
          errorTolerance: 1e-14,
          improvementThreshold: 0,
        },
      );
      const error = distances(parameterValues).reduce((sum, d) => sum + d * d, 0);
      if (error < least) [least, found] = [error, parameterValues];
    } catch {
      // A fit that runs away is no fit; the other start may do.
    }
  }
  const { direction, point } = lay(found);
  const rise = found[5] ?? 0;
  // The point of the axis that is nearest to the middle, and the radius there.
  const along = -dot(point, direction);
  return {
    direction,
    point: add(point, scale(direction, along)),
    radius: Math.abs(found[4]! + rise * along),
    slope: Math.atan(rise),
    residual: Math.sqrt(least / points.length),
  };
}
