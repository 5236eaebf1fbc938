import type { Camera } from '../../document';
import { add, dot, normalize, scale, subtract, type Vector } from '../../geometry';
import { cameraAxes } from '../../scene';

/** How a camera sees points of the world on one frame. */
export interface Seen {
  camera: Camera;
  forward: Vector;
  right: Vector;
  up: Vector;
  /** Tangents of half its angles; of a parallel projection half its sizes in millimetres. */
  halfWidth: number;
  halfHeight: number;
}

/** @param aspect width of the picture by its height */
export function seenBy(camera: Camera, aspect: number): Seen {
  const { x: right, y: up, z } = cameraAxes(camera);
  const forward = scale(z, -1);
  const halfWidth =
    camera.projection === 'orthographic' ? camera.orthographicWidth / 2 : camera.sensorWidth / 2 / camera.focalLength;
  return { camera, forward, right, up, halfWidth, halfHeight: halfWidth / aspect };
}

/** Where a point lies in the picture: -1 to 1 from left to right and from bottom to top; and how far it is along the axis. */
export function project(seen: Seen, point: Vector): { x: number; y: number; depth: number } {
  const way = subtract(point, seen.camera.position);
  const depth = dot(way, seen.forward);
  const by = seen.camera.projection === 'orthographic' ? 1 : depth;
  return { x: dot(way, seen.right) / (by * seen.halfWidth), y: dot(way, seen.up) / (by * seen.halfHeight), depth };
}

/** The ray through a place of the picture. */
export function rayThrough(seen: Seen, x: number, y: number): { origin: Vector; direction: Vector } {
  const aside = add(scale(seen.right, x * seen.halfWidth), scale(seen.up, y * seen.halfHeight));
  if (seen.camera.projection === 'orthographic')
    return { origin: add(seen.camera.position, aside), direction: seen.forward };
  return { origin: seen.camera.position, direction: normalize(add(seen.forward, aside)) };
}
