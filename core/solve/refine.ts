import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { rotateVector, type Quaternion, type Vector } from '../geometry';
import { sightOf, type Pinhole, type Sight } from './pinhole';

/** A turn by the length of a vector, in radians, about it. */
function quaternionOf([x, y, z]: Vector): Quaternion {
  const angle = Math.hypot(x, y, z);
  const k = angle < 1e-9 ? 0.5 : Math.sin(angle / 2) / angle;
  return [x * k, y * k, z * k, Math.cos(angle / 2)];
}

/** A camera turned and moved a little: three of a turn, three of a way in mm, and what its focal length is multiplied by, as a logarithm. */
export function nudged(camera: Pinhole, [a = 0, b = 0, c = 0, x = 0, y = 0, z = 0, f = 0]: readonly number[]): Pinhole {
  const turn = quaternionOf([a, b, c]);
  const turned = (v: Vector) => rotateVector(v, turn);
  const [px, py, pz] = camera.position;
  return {
    position: [px + x, py + y, pz + z],
    right: turned(camera.right),
    up: turned(camera.up),
    forward: turned(camera.forward),
    focal: camera.focal * Math.exp(f),
  };
}

/** Something of which both its place and where it is seen are known. */
export interface Known {
  place: Vector;
  seen: Sight;
}

/** Root of the mean squared distance between where things are seen and where a camera sees them, in half widths. */
export function missOf(camera: Pinhole, known: readonly Known[]): number {
  let sum = 0;
  for (const { place, seen } of known) {
    const at = sightOf(camera, place);
    if (!at) return Infinity;
    sum += (at[0] - seen[0]) ** 2 + (at[1] - seen[1]) ** 2;
  }
  return Math.sqrt(sum / known.length);
}

/**
 * The camera near a given one that sees things where they are seen, by least squares (Levenberg and Marquardt).
 * @param lens whether its focal length is looked for too
 */
export function refineCamera(camera: Pinhole, known: readonly Known[], lens: boolean): Pinhole {
  const reach = Math.max(...known.map(({ place }) => Math.hypot(...place.map((v, k) => v - camera.position[k]!))));
  // Ways in parts of the distance, so that all steps are alike.
  const from = (values: readonly number[]) =>
    nudged(camera, [...values.slice(0, 3), ...values.slice(3, 6).map((v) => v * reach), lens ? (values[6] ?? 0) : 0]);
  const { parameterValues } = levenbergMarquardt(
    { x: known.flatMap((_, k) => [2 * k, 2 * k + 1]), y: known.flatMap(({ seen }) => [...seen]) },
    (values: number[]) => {
      const near = from(values);
      const sights = known.map(({ place }) => sightOf(near, place) ?? [1e3, 1e3]);
      return (index: number) => sights[index >> 1]![index & 1]!;
    },
    {
      initialValues: new Array<number>(lens ? 7 : 6).fill(0),
      gradientDifference: 1e-6,
      damping: 1e-3,
      maxIterations: 60,
      errorTolerance: 1e-14,
      centralDifference: true,
    },
  );
  const found = from(parameterValues);
  return missOf(found, known) < missOf(camera, known) ? found : camera;
}
