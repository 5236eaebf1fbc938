import * as L from '@zippy/kernel/layout';
import type { Camera } from '../document';
import { lensRadius, tanHalfWidth } from '../optics';
import { cameraAxes } from '../scene';

/** Writes a camera's place, axes and lens at an address, CAMERA_SIZE bytes. */
export function writeCamera(f32: Float32Array, at: number, camera: Camera | null, aspect: number): void {
  const position = camera?.position ?? [0, 0, 1000];
  const { x, y, z } = cameraAxes(camera ?? { position: [0, 0, 1000], target: [0, 0, 0], roll: 0 });
  const parallel = camera?.projection === 'orthographic';
  const across = camera ? (parallel ? camera.orthographicWidth / 2 : tanHalfWidth(camera)) : 0.36;
  f32.set(position, at / 4);
  f32.set(x, (at + L.CAMERA_RIGHT) / 4);
  f32.set(y, (at + L.CAMERA_UP) / 4);
  f32.set(
    z.map((v) => -v),
    (at + L.CAMERA_FORWARD) / 4,
  );
  f32[(at + L.CAMERA_TAN_X) / 4] = across;
  f32[(at + L.CAMERA_TAN_Y) / 4] = across / aspect;
  f32[(at + L.CAMERA_LENS) / 4] = camera && !parallel ? lensRadius(camera) : 0;
  f32[(at + L.CAMERA_FOCUS) / 4] = camera?.focusDistance ?? 1000;
}
