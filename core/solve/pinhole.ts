import { cameraAxes } from '../scene';
import { add, cross, dot, normalize, scale, subtract, type Vector } from '../geometry';
import type { Camera } from '../document';

/** A place on a picture: half widths to the right of its middle and above it. */
export type Sight = readonly [number, number];

/** A camera without blur or distortion, whose axis meets the middle of its picture. */
export interface Pinhole {
  position: Vector;
  right: Vector;
  up: Vector;
  forward: Vector;
  /** Distance of the picture behind the pinhole, in half widths: 1 over the tangent of half the angle of view. */
  focal: number;
}

/** Where a point is seen; null behind the camera. */
export function sightOf({ position, right, up, forward, focal }: Pinhole, point: Vector): Sight | null {
  const to = subtract(point, position);
  const along = dot(to, forward);
  if (along <= 1e-9) return null;
  return [(focal * dot(to, right)) / along, (focal * dot(to, up)) / along];
}

/** Unit direction in which something at a place of the picture stands. */
export const rayThrough = ({ right, up, forward, focal }: Pinhole, [x, y]: Sight): Vector =>
  normalize(add(scale(forward, focal), add(scale(right, x), scale(up, y))));

/** Where the ray through a place of the picture meets the ground, y = 0; null where it does not. */
export function onGround(camera: Pinhole, at: Sight): Vector | null {
  const ray = rayThrough(camera, at);
  const along = -camera.position[1] / ray[1];
  return Number.isFinite(along) && along > 0 ? add(camera.position, scale(ray, along)) : null;
}

type CameraPlace = Pick<Camera, 'position' | 'target' | 'roll' | 'focalLength'>;

/** A pinhole as a camera of the document with a sensor so wide, in mm. @param reach how far along its axis its target lies, in mm */
export function cameraOf(
  { position, up, right, forward, focal }: Pinhole,
  sensorWidth: number,
  reach: number,
): CameraPlace {
  const target = add(position, scale(forward, reach));
  const level = cameraAxes({ position: [...position], target: [...target], roll: 0 });
  return {
    position: [...position],
    target: [...target],
    roll: Math.atan2(dot(up, level.x), dot(right, level.x)),
    focalLength: (focal * sensorWidth) / 2,
  };
}

/** A camera of the document as a pinhole. */
export function pinholeOf(camera: CameraPlace & Pick<Camera, 'sensorWidth'>): Pinhole {
  const { x, y, z } = cameraAxes(camera);
  return {
    position: camera.position,
    right: x,
    up: y,
    forward: scale(z, -1),
    focal: (2 * camera.focalLength) / camera.sensorWidth,
  };
}

/** Axes that stand upright on each other, near to two given ones: right and forward stay, up as near as it can. */
export function upright(right: Vector, forward: Vector): Pick<Pinhole, 'right' | 'up' | 'forward'> {
  const ahead = normalize(forward);
  const aside = normalize(subtract(right, scale(ahead, dot(right, ahead))));
  return { right: aside, up: cross(aside, ahead), forward: ahead };
}
