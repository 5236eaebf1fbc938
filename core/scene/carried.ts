import type { Camera, Light, Vector3 } from '../document';
import {
  cross,
  dot,
  frameAlong,
  invertTransform,
  quaternionAbout,
  rotateVector,
  subtract,
  transformDirection,
  transformPoint,
  type Transform,
} from '../geometry';

type Aimed = Light | Camera;

/** A light or camera as it stands in the world, by the world transform of what carries it. */
export const placeAimed = <T extends Aimed>(each: T, carrier: Transform | undefined): T =>
  carrier ? mapAimed(each, carrier) : each;

/** A light or camera that stands in the world, in the space of what is to carry it. */
export function unplaceAimed<T extends Aimed>(each: T, carrier: Transform): T {
  const inverse = invertTransform(carrier);
  return inverse ? mapAimed(each, inverse) : each;
}

function mapAimed<T extends Aimed>(each: T, m: Transform): T {
  const position = transformPoint(m, each.position);
  const target = transformPoint(m, each.target);
  const moved = { ...each, position, target };
  return 'roll' in moved ? { ...moved, roll: rollAfter(each as Camera, moved, m) } : moved;
}

/** The roll that keeps a camera's own up direction: without roll, a camera keeps the horizon level wherever it is carried. */
function rollAfter(before: Camera, after: { position: Vector3; target: Vector3 }, m: Transform): number {
  const own = frameAlong(subtract(before.position, before.target));
  const up = transformDirection(m, rotateVector(own.y, quaternionAbout(own.z, -before.roll)));
  const level = frameAlong(subtract(after.position, after.target));
  // The angle from the level up direction to the carried one, about the way back; roll counts the other way round.
  return -Math.atan2(dot(cross(level.y, up), level.z), dot(level.y, up));
}
