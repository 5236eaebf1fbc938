import type { Camera } from '../document';

/** Tangent of half the horizontal angle of view, focused at infinity. */
export const tanHalfWidth = (camera: Camera): number => camera.sensorWidth / 2 / camera.focalLength;

/** Radius of the entrance pupil in mm; 0 for a pinhole. */
export const lensRadius = (camera: Camera): number => (camera.fStop > 0 ? camera.focalLength / (2 * camera.fStop) : 0);

/**
 * Diameter of the blur of a point at `distance`, on the plane in focus, in mm: aperture × |distance - focus| / distance.
 */
export function circleOfConfusion(camera: Camera, distance: number): number {
  return (2 * lensRadius(camera) * Math.abs(distance - camera.focusDistance)) / distance;
}
