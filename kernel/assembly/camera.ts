// Rays that leave the camera.

import { arc, turn, turnCosine, turnSine } from './angle';
import {
  CAMERA_FOCUS,
  CAMERA_FORWARD,
  CAMERA_LENS,
  CAMERA_RIGHT,
  CAMERA_SIZE,
  CAMERA_TAN_X,
  CAMERA_TAN_Y,
  CAMERA_UP,
  SCENE_BLADES,
  SCENE_BLADE_TURN,
  SCENE_CAMERA,
  SCENE_HEIGHT,
  SCENE_NEXT_CAMERA,
  SCENE_ORTHOGRAPHIC,
  SCENE_WIDTH,
} from './layout';
import { shutterTime } from './motion';
import { draw2, drawX, drawY } from './sampler';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

export let originX: f32 = 0;
export let originY: f32 = 0;
export let originZ: f32 = 0;
export let directionX: f32 = 0;
export let directionY: f32 = 0;
export let directionZ: f32 = 0;
/** Where the ray crosses the picture, in pixels. */
export let pictureX: f32 = 0;
export let pictureY: f32 = 0;

/** Radius of the lens, 0 for a pinhole, and where the ray leaves it, along its right and up. */
export let lensRadius: f32 = 0;
export let lensX: f32 = 0;
export let lensY: f32 = 0;
/** Slopes of the line of sight, to the right and up, through the middle of the lens. */
export let slopeX: f32 = 0;
export let slopeY: f32 = 0;
/** The point in focus that all rays of this point of the picture go through, along right, up and forward of the camera. */
export let focusX: f32 = 0;
export let focusY: f32 = 0;
export let focusZ: f32 = 0;

/** A tent of one pixel's half width, from a uniform number. */
function tent(u: f32): f32 {
  return u < 0.5 ? sqrt<f32>(TWO * u) - 1 : ONE - sqrt<f32>(TWO - TWO * u);
}

function between(scene: usize, offset: usize): f32 {
  const a = load<f32>(scene + SCENE_CAMERA + offset);
  return a + (load<f32>(scene + SCENE_CAMERA + CAMERA_SIZE + offset) - a) * shutterTime;
}

let apertureX: f32 = 0;
let apertureY: f32 = 0;
/** A point of the aperture of radius 1: a disc, or a polygon whose corners stand on it. */
function sampleAperture(scene: usize, u: f32, v: f32): void {
  const blades = load<u32>(scene, SCENE_BLADES);
  if (blades < 3) {
    const r = sqrt<f32>(u);
    turn(v);
    apertureX = r * turnCosine;
    apertureY = r * turnSine;
    return;
  }
  const wedge = v * <f32>blades;
  const k = floor(wedge);
  const r = sqrt<f32>(u);
  const along = wedge - k;
  const corner = k / <f32>blades + load<f32>(scene, SCENE_BLADE_TURN) / (TWO * PI);
  turn(corner);
  apertureX = r * turnCosine * (ONE - along);
  apertureY = r * turnSine * (ONE - along);
  turn(corner + ONE / <f32>blades);
  apertureX += r * turnCosine * along;
  apertureY += r * turnSine * along;
}

/** Area of the aperture of radius 1. */
function apertureArea(blades: u32): f32 {
  return blades < 3 ? PI : <f32>0.5 * <f32>blades * Mathf.sin((TWO * PI) / <f32>blades);
}

/** Density of a point of the lens as `startRay` chooses it, over the area of the lens. */
export function lensPdf(scene: usize): f32 {
  return ONE / (apertureArea(load<u32>(scene, SCENE_BLADES)) * lensRadius * lensRadius);
}

/** Whether light comes in at a point of the lens. */
export function isOpen(scene: usize, x: f32, y: f32): bool {
  const r2 = x * x + y * y,
    radius2 = lensRadius * lensRadius;
  if (r2 > radius2) return false;
  const blades = load<u32>(scene, SCENE_BLADES);
  if (blades < 3) return true;
  // Within a wedge, the edge of the polygon stands across the wedge's middle.
  const wedge = (TWO * PI) / <f32>blades;
  const angle = arc(y, x) - load<f32>(scene, SCENE_BLADE_TURN);
  const aside = angle - (floor(angle / wedge) + <f32>0.5) * wedge;
  return sqrt<f32>(r2) * Mathf.cos(aside) <= lensRadius * Mathf.cos(<f32>0.5 * wedge);
}

// The camera while the shutter is open at this moment: its place, and its right, up and forward.
let cameraX: f32 = 0;
let cameraY: f32 = 0;
let cameraZ: f32 = 0;
let rightX: f32 = 1;
let rightY: f32 = 0;
let rightZ: f32 = 0;
let upX: f32 = 0;
let upY: f32 = 1;
let upZ: f32 = 0;
let forwardX: f32 = 0;
let forwardY: f32 = 0;
let forwardZ: f32 = -1;

function openCamera(scene: usize): void {
  cameraX = between(scene, 0);
  cameraY = between(scene, 4);
  cameraZ = between(scene, 8);
  rightX = between(scene, CAMERA_RIGHT);
  rightY = between(scene, CAMERA_RIGHT + 4);
  rightZ = between(scene, CAMERA_RIGHT + 8);
  upX = between(scene, CAMERA_UP);
  upY = between(scene, CAMERA_UP + 4);
  upZ = between(scene, CAMERA_UP + 8);
  forwardX = between(scene, CAMERA_FORWARD);
  forwardY = between(scene, CAMERA_FORWARD + 4);
  forwardZ = between(scene, CAMERA_FORWARD + 8);
}

/** How far a point is from the camera along its axis, at the time of the ray that `startRay` started last. */
export function depthAlongAxis(x: f32, y: f32, z: f32): f32 {
  return (x - cameraX) * forwardX + (y - cameraY) * forwardY + (z - cameraZ) * forwardZ;
}

/** Starts a ray through a pixel and a point of the lens (Cook, Porter and Carpenter, Distributed Ray Tracing, 1984). */
export function startRay(scene: usize, px: i32, py: i32): void {
  draw2();
  pictureX = <f32>px + <f32>0.5 + tent(drawX);
  pictureY = <f32>py + <f32>0.5 + tent(drawY);
  const sx = (TWO * pictureX) / <f32>load<i32>(scene, SCENE_WIDTH) - 1;
  const sy = ONE - (TWO * pictureY) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const fx = sx * between(scene, CAMERA_TAN_X),
    fy = sy * between(scene, CAMERA_TAN_Y);
  draw2();
  openCamera(scene);
  const parallel = load<u32>(scene, SCENE_ORTHOGRAPHIC) !== 0;
  focusZ = between(scene, CAMERA_FOCUS);
  slopeX = fx;
  slopeY = fy;
  focusX = parallel ? fx : fx * focusZ;
  focusY = parallel ? fy : fy * focusZ;
  lensRadius = parallel ? 0 : between(scene, CAMERA_LENS);
  let lx: f32 = parallel ? fx : 0,
    ly: f32 = parallel ? fy : 0;
  if (lensRadius > 0) {
    sampleAperture(scene, drawX, drawY);
    lx = lensRadius * apertureX;
    ly = lensRadius * apertureY;
  }
  aimThrough(lx, ly);
}

/** Sets the ray from a point of the lens through the point in focus. */
export function aimThrough(lx: f32, ly: f32): void {
  lensX = lx;
  lensY = ly;
  const dx = focusX - lx,
    dy = focusY - ly;
  originX = cameraX + lx * rightX + ly * upX;
  originY = cameraY + lx * rightY + ly * upY;
  originZ = cameraZ + lx * rightZ + ly * upZ;
  const x = dx * rightX + dy * upX + focusZ * forwardX;
  const y = dx * rightY + dy * upY + focusZ * forwardY;
  const z = dx * rightZ + dy * upZ + focusZ * forwardZ;
  const inv = ONE / sqrt<f32>(x * x + y * y + z * z);
  directionX = x * inv;
  directionY = y * inv;
  directionZ = z * inv;
}

/** A point of the world along right, up and forward of the camera, from the middle of its lens. */
export let seenX: f32 = 0;
export let seenY: f32 = 0;
export let seenZ: f32 = 0;
export function seeFromLens(x: f32, y: f32, z: f32): void {
  const dx = x - cameraX,
    dy = y - cameraY,
    dz = z - cameraZ;
  seenX = dx * rightX + dy * rightY + dz * rightZ;
  seenY = dx * upX + dy * upY + dz * upZ;
  seenZ = dx * forwardX + dy * forwardY + dz * forwardZ;
}

/** Where a point of the world stands on this picture, in pixels, into pictureX and pictureY. False behind the camera. */
export function projectNow(scene: usize, x: f32, y: f32, z: f32): bool {
  seeFromLens(x, y, z);
  if (seenZ <= 1e-3) return false;
  const scale: f32 = load<u32>(scene, SCENE_ORTHOGRAPHIC) !== 0 ? 1 : seenZ;
  const sx = seenX / (scale * between(scene, CAMERA_TAN_X)),
    sy = seenY / (scale * between(scene, CAMERA_TAN_Y));
  pictureX = (sx + 1) * <f32>0.5 * <f32>load<i32>(scene, SCENE_WIDTH);
  pictureY = (ONE - sy) * <f32>0.5 * <f32>load<i32>(scene, SCENE_HEIGHT);
  return true;
}

/** Where a point of the world stands on the next frame's picture, in pixels, into pictureX and pictureY. False behind the camera. */
export function projectNext(scene: usize, x: f32, y: f32, z: f32): bool {
  const camera = scene + SCENE_NEXT_CAMERA;
  const dx = x - load<f32>(camera),
    dy = y - load<f32>(camera, 4),
    dz = z - load<f32>(camera, 8);
  const r = camera + CAMERA_RIGHT,
    u = camera + CAMERA_UP,
    f = camera + CAMERA_FORWARD;
  const along = dx * load<f32>(f) + dy * load<f32>(f, 4) + dz * load<f32>(f, 8);
  const parallel = load<u32>(scene, SCENE_ORTHOGRAPHIC) !== 0;
  if (along <= 1e-3) return false;
  const scale: f32 = parallel ? 1 : along;
  const sx =
    (dx * load<f32>(r) + dy * load<f32>(r, 4) + dz * load<f32>(r, 8)) / (scale * load<f32>(camera, CAMERA_TAN_X));
  const sy =
    (dx * load<f32>(u) + dy * load<f32>(u, 4) + dz * load<f32>(u, 8)) / (scale * load<f32>(camera, CAMERA_TAN_Y));
  pictureX = (sx + 1) * <f32>0.5 * <f32>load<i32>(scene, SCENE_WIDTH);
  pictureY = (ONE - sy) * <f32>0.5 * <f32>load<i32>(scene, SCENE_HEIGHT);
  return true;
}
