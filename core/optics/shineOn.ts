import { add, dot, normalize, scale, subtract, type Vector } from '../geometry';

/** How a lamp comes to a place: seen mirrored there, lighting it squarely, or throwing the shadow of something on it. */
export const SHINES = ['mirrored', 'square', 'shadow'] as const;
export type Shine = (typeof SHINES)[number];

/** A place on a surface, as it is seen. */
export interface SeenPlace {
  point: Vector;
  /** Out of the surface, of unit length, on whichever side. */
  normal: Vector;
  /** Where it is seen from. */
  eye: Vector;
}

/**
 * Where a lamp has to stand for its middle to shine on a place.
 * @param distance from the place, for a shadow from what throws it @param thrower middle of what throws a shadow
 */
export function shineOn(how: Shine, { point, normal, eye }: SeenPlace, distance: number, thrower: Vector): Vector {
  if (how === 'shadow') {
    const away = normalize(subtract(thrower, point));
    return add(thrower, scale(away, distance));
  }
  const view = normalize(subtract(eye, point));
  const facing = dot(view, normal) < 0 ? scale(normal, -1) : normal;
  // Angle of incidence and of reflection are one: the view turned about the normal by half a turn.
  const towards = how === 'square' ? facing : subtract(scale(facing, 2 * dot(view, facing)), view);
  return add(point, scale(towards, distance));
}
