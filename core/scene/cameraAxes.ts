import type { Camera } from '../document';
import { frameAlong, quaternionAbout, rotateVector, subtract, type Vector } from '../geometry';

/** Right, up and backward of a camera, of unit length. */
export function cameraAxes({ position, target, roll }: Pick<Camera, 'position' | 'target' | 'roll'>): {
  x: Vector;
  y: Vector;
  z: Vector;
} {
  const { x, y, z } = frameAlong(subtract(position, target));
  const turn = quaternionAbout(z, -roll);
  return { x: rotateVector(x, turn), y: rotateVector(y, turn), z };
}
