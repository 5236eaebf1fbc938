// What a ray meets that meets no part: surroundings, suns, and for the camera what is seen behind.

import { pictureX, pictureY, projectNow } from '../camera';
import {
  BEHIND_COLOR,
  BEHIND_PICTURE,
  BEHIND_PLATE,
  BEHIND_SURROUNDINGS,
  BEHIND_TRANSPARENT,
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_SEEN,
  LIGHT_SIZE,
  SCENE_BEHIND,
  SCENE_BEHIND_COLOR,
  SCENE_BEHIND_FIT,
  SCENE_BEHIND_PICTURE,
  SCENE_HEIGHT,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHTS,
  SCENE_LOCAL_LIGHTS,
  SCENE_WIDTH,
} from '../layout';
import { lightB, lightG, lightGroup, lightPdf, lightR, sunAt } from '../light';
import { meetBehind, meetSky, skyB, skyChosenPdf, skyG, skyR } from '../sky';
import { lookUp, texelB, texelG, texelR } from '../texture';
import { surfaceX, surfaceY, surfaceZ } from '../surface';
import { add, addBehind, cover, filmX, filmY, keepAlbedoBehind } from './outputs';
import { shadeB, shadeG, shadeR } from './plate';
import { meetWeight } from './vertex';

const ONE: f32 = 1;

/** The plate at a place of the picture, in pixels: as much of it as fills the frame. */
function lookUpPlate(scene: usize, x: f32, y: f32): void {
  const plate = <usize>load<u32>(scene, SCENE_BEHIND_PICTURE);
  const across = <f32>load<i32>(plate),
    down = <f32>load<i32>(plate, 4);
  const shownX = load<f32>(scene, SCENE_BEHIND_FIT),
    shownY = load<f32>(scene, SCENE_BEHIND_FIT + 4);
  // Half a pixel of the coarsest level that is read: nearer to an edge, what lies beyond would be blended in.
  const step = (shownY * down) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const edge = max<f32>(0.5, step);
  const edgeX = min<f32>(0.5, edge / across),
    edgeY = min<f32>(0.5, edge / down);
  const u = <f32>0.5 + shownX * (x / <f32>load<i32>(scene, SCENE_WIDTH) - <f32>0.5);
  const v = <f32>0.5 + shownY * (y / <f32>load<i32>(scene, SCENE_HEIGHT) - <f32>0.5);
  lookUp(
    plate,
    max<f32>(edgeX, min<f32>(ONE - edgeX, u)),
    max<f32>(edgeY, min<f32>(ONE - edgeY, v)),
    step / max<f32>(across, down),
  );
  behindR = load<f32>(scene, SCENE_BEHIND_COLOR) * texelR;
  behindG = load<f32>(scene, SCENE_BEHIND_COLOR + 4) * texelG;
  behindB = load<f32>(scene, SCENE_BEHIND_COLOR + 8) * texelB;
}

let behindR: f32 = 0;
let behindG: f32 = 0;
let behindB: f32 = 0;
/** What the camera sees behind all things along its own ray, into behindR, G, B; nothing where the ground is open. */
function lookBehind(scene: usize, dx: f32, dy: f32, dz: f32): void {
  const behind = load<u32>(scene, SCENE_BEHIND);
  if (behind === BEHIND_COLOR) {
    behindR = load<f32>(scene, SCENE_BEHIND_COLOR);
    behindG = load<f32>(scene, SCENE_BEHIND_COLOR + 4);
    behindB = load<f32>(scene, SCENE_BEHIND_COLOR + 8);
  } else if (behind === BEHIND_PLATE) {
    lookUpPlate(scene, filmX, filmY);
  } else {
    if (behind === BEHIND_PICTURE) meetBehind(scene, dx, dy, dz);
    else if (behind === BEHIND_SURROUNDINGS) meetSky(scene, dx, dy, dz);
    else unreachable();
    behindR = skyR;
    behindG = skyG;
    behindB = skyB;
  }
}

function groupOfSky(scene: usize): u32 {
  const sky = load<u32>(scene, SCENE_LIGHT_COUNT) - 1;
  return load<u32>(<usize>load<u32>(scene, SCENE_LIGHTS) + <usize>sky * LIGHT_SIZE, LIGHT_GROUP);
}

/** Adds what is seen behind where the camera's own ray meets a part that belongs to it, in the shade that `findShade` found. */
export function seeThroughPart(scene: usize, dx: f32, dy: f32, dz: f32): void {
  cover(ONE - (<f32>0.2126 * shadeR + <f32>0.7152 * shadeG + <f32>0.0722 * shadeB));
  if (load<u32>(scene, SCENE_BEHIND) === BEHIND_TRANSPARENT) return;
  lookBehind(scene, dx, dy, dz);
  keepAlbedoBehind(behindR, behindG, behindB);
  addBehind(groupOfSky(scene), behindR * shadeR, behindG * shadeG, behindB * shadeB);
}

/** Whether the open surface stands on the plate, so that what a mirror or glass shows of it is known. */
export function isOnPlate(scene: usize): bool {
  if (load<u32>(scene, SCENE_BEHIND) !== BEHIND_PLATE || !projectNow(scene, surfaceX, surfaceY, surfaceZ)) return false;
  const x = pictureX,
    y = pictureY;
  return x >= 0 && y >= 0 && x <= <f32>load<i32>(scene, SCENE_WIDTH) && y <= <f32>load<i32>(scene, SCENE_HEIGHT);
}

/** Adds what the plate shows where the open surface stands on it, as `isOnPlate` has found, in the shade of `findShade`. */
export function seePlateThere(scene: usize): void {
  if (!isOnPlate(scene)) return;
  lookUpPlate(scene, pictureX, pictureY);
  add(groupOfSky(scene), behindR * shadeR, behindG * shadeG, behindB * shadeB);
}

/** Adds what a ray finds that leaves the scene. `straight` is one that comes from the camera. */
export function meetSurroundings(scene: usize, dx: f32, dy: f32, dz: f32, straight: bool): void {
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const sky = load<u32>(scene, SCENE_LIGHT_COUNT) - 1;
  if (straight) {
    if (load<u32>(scene, SCENE_BEHIND) === BEHIND_TRANSPARENT) return;
    lookBehind(scene, dx, dy, dz);
    addBehind(groupOfSky(scene), behindR, behindG, behindB);
  } else {
    meetSky(scene, dx, dy, dz);
    const r = skyR,
      g = skyG,
      b = skyB;
    const w = meetWeight(scene, <i32>sky, skyChosenPdf);
    add(groupOfSky(scene), r * w, g * w, b * w);
  }
  for (let k = load<u32>(scene, SCENE_LOCAL_LIGHTS); k < sky; k++) {
    if (straight && !(load<u32>(lights + <usize>k * LIGHT_SIZE, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
    if (!sunAt(scene, k, dx, dy, dz)) continue;
    const r = lightR,
      g = lightG,
      b = lightB,
      sun = lightGroup;
    const w = meetWeight(scene, <i32>k, lightPdf);
    add(sun, r * w, g * w, b * w);
  }
}
