import type { Camera, Vector3 } from '../document';
import { dot, invertTransform, normalize, subtract, transformPoint, type Transform } from '../geometry';

/** A point in the space of a node. */
export type FollowedPoint = NonNullable<Camera['focusOn']>;

/** Millimetres from a camera along its axis to a point of the world; at least one, as nothing nearer can be sharp. */
export const focusDistanceTo = ({ position, target }: Pick<Camera, 'position' | 'target'>, point: Vector3): number =>
  Math.max(1, dot(normalize(subtract(target, position)), subtract(point, position)));

/** A point of the world as a node with this world transform carries it, for what follows it; null where the node has no size. */
export function followedPoint(node: string, world: Transform, point: Vector3): FollowedPoint | null {
  const inverse = invertTransform(world);
  return inverse && { node, point: transformPoint(inverse, point) };
}
