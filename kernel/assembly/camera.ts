// Rays that leave the camera.

import { turn, turnCosine, turnSine } from './angle';
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

/** Starts a ray through a pixel and a point of the lens (Cook, Porter and Carpenter, Distributed Ray Tracing, 1984). */
export function startRay(scene: usize, px: i32, py: i32): void {
  draw2();
  pictureX = <f32>px + <f32>0.5 + tent(drawX);
  pictureY = <f32>py + <f32>0.5 + tent(drawY);
  const sx = (TWO * pictureX) / <f32>load<i32>(scene, SCENE_WIDTH) - 1;
  const sy = ONE - (TWO * pictureY) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const fx = sx * between(scene, CAMERA_TAN_X), fy = sy * between(scene, CAMERA_TAN_Y);
  draw2();
  const rx = between(scene, CAMERA_RIGHT), ry = between(scene, CAMERA_RIGHT + 4), rz = between(scene, CAMERA_RIGHT + 8);
  const ux = between(scene, CAMERA_UP), uy = between(scene, CAMERA_UP + 4), uz = between(scene, CAMERA_UP + 8);
  const zx = between(scene, CAMERA_FORWARD), zy = between(scene, CAMERA_FORWARD + 4), zz = between(scene, CAMERA_FORWARD + 8);
  const parallel = load<u32>(scene, SCENE_ORTHOGRAPHIC) != 0;
  const radius: f32 = parallel ? 0 : between(scene, CAMERA_LENS);
  let lx: f32 = parallel ? fx : 0, ly: f32 = parallel ? fy : 0;
  if (radius > 0) {
    sampleAperture(scene, drawX, drawY);
    lx = radius * apertureX;
    ly = radius * apertureY;
  }
  const focus = between(scene, CAMERA_FOCUS);
  const dx: f32 = parallel ? 0 : fx * focus - lx, dy: f32 = parallel ? 0 : fy * focus - ly;
  originX = between(scene, 0) + lx * rx + ly * ux;
  originY = between(scene, 4) + lx * ry + ly * uy;
  originZ = between(scene, 8) + lx * rz + ly * uz;
  const x = dx * rx + dy * ux + focus * zx;
  const y = dx * ry + dy * uy + focus * zy;
  const z = dx * rz + dy * uz + focus * zz;
  const inv = ONE / sqrt<f32>(x * x + y * y + z * z);
  directionX = x * inv;
  directionY = y * inv;
  directionZ = z * inv;
}

/** Where a point of the world stands on the next frame's picture, in pixels, into pictureX and pictureY. False behind the camera. */
export function projectNext(scene: usize, x: f32, y: f32, z: f32): bool {
  const camera = scene + SCENE_NEXT_CAMERA;
  const dx = x - load<f32>(camera), dy = y - load<f32>(camera, 4), dz = z - load<f32>(camera, 8);
  const r = camera + CAMERA_RIGHT, u = camera + CAMERA_UP, f = camera + CAMERA_FORWARD;
  const along = dx * load<f32>(f) + dy * load<f32>(f, 4) + dz * load<f32>(f, 8);
  const parallel = load<u32>(scene, SCENE_ORTHOGRAPHIC) != 0;
  if (along <= 1e-3) return false;
  const scale: f32 = parallel ? 1 : along;
  const sx = (dx * load<f32>(r) + dy * load<f32>(r, 4) + dz * load<f32>(r, 8)) / (scale * load<f32>(camera, CAMERA_TAN_X));
  const sy = (dx * load<f32>(u) + dy * load<f32>(u, 4) + dz * load<f32>(u, 8)) / (scale * load<f32>(camera, CAMERA_TAN_Y));
  pictureX = (sx + 1) * <f32>0.5 * <f32>load<i32>(scene, SCENE_WIDTH);
  pictureY = (ONE - sy) * <f32>0.5 * <f32>load<i32>(scene, SCENE_HEIGHT);
  return true;
}
