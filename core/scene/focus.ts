import type { Camera, Vector3 } from '../document';
import { dot, invertTransform, normalize, subtract, transformPoint, type Transform } from '../geometry';

/** Millimetres from a camera along its axis to a point of the world; at least one, as nothing nearer can be sharp. */
export const focusDistanceTo = ({ position, target }: Pick<Camera, 'position' | 'target'>, point: Vector3): number =>
  Math.max(1, dot(normalize(subtract(target, position)), subtract(point, position)));

/** A focus that follows a point of the world as it is carried by a node with this world transform; null where it has no size. */
export function focusOnPoint(node: string, world: Transform, point: Vector3): Camera['focusOn'] {
  const inverse = invertTransform(world);
  return inverse && { node, point: transformPoint(inverse, point) };
}
