// What one path tells the film, written by the functions here alone and read by `renderPixel` after `tracePath`.

import { depthAlongAxis, pictureX, pictureY, projectNext } from '../camera';
import {
  FINISH_BASE,
  FINISH_HASH,
  FINISH_SUBSURFACE,
  FINISH_SUBSURFACE_COLOR,
  FINISH_TRANSMISSION,
  INSTANCE_HASH,
  INSTANCE_NEXT,
  INSTANCE_PART,
  LAYER_LIGHTS,
  LAYER_MOTION,
  SCENE_GROUPS,
  SCENE_LAYERS,
} from '../layout';
import { objectX, objectY, objectZ, surfaceX, surfaceY, surfaceZ } from '../surface';
import { limit, throughB, throughG, throughR } from './carried';

const ONE: f32 = 1;

export let pathR: f32 = 0;
export let pathG: f32 = 0;
export let pathB: f32 = 0;
export let pathAlpha: f32 = 0;
export let pathDepth: f32 = 0;
export let pathAxis: f32 = 0;
export let pathNormalX: f32 = 0;
export let pathNormalY: f32 = 0;
export let pathNormalZ: f32 = 0;
export let pathAlbedoR: f32 = 0;
export let pathAlbedoG: f32 = 0;
export let pathAlbedoB: f32 = 0;
export let pathPart: u32 = 0;
export let pathX: f32 = 0;
export let pathY: f32 = 0;
export let pathZ: f32 = 0;
export let pathMotionX: f32 = 0;
export let pathMotionY: f32 = 0;
export let pathEmissionR: f32 = 0;
export let pathEmissionG: f32 = 0;
export let pathEmissionB: f32 = 0;
export let pathLit: f32 = 0;
export let pathUnshaded: f32 = 0;
export let pathOpenness: f32 = 0;
export let pathPartHash: u32 = 0;
export let pathFinishHash: u32 = 0;
export let pathBehindR: f32 = 0;
export let pathBehindG: f32 = 0;
export let pathBehindB: f32 = 0;
/** How much of what is seen behind things cover, whether or not that is in the picture. */
export let pathCover: f32 = 0;

/** Where the camera's ray began on the picture, in pixels. */
export let filmX: f32 = 0;
export let filmY: f32 = 0;

let groups: usize = 0;
let splitGroups: bool = false;

/** Gives this worker room for the light of each group. */
export function setGroupRoom(at: usize): void {
  groups = at;
}

/** Begins a path whose ray the camera has started. */
export function beginOutputs(scene: usize): void {
  pathR = 0;
  pathG = 0;
  pathB = 0;
  pathAlpha = 0;
  pathDepth = 0;
  pathAxis = 0;
  pathNormalX = 0;
  pathNormalY = 0;
  pathNormalZ = 0;
  pathAlbedoR = 0;
  pathAlbedoG = 0;
  pathAlbedoB = 0;
  pathPart = 0;
  pathMotionX = 0;
  pathMotionY = 0;
  pathEmissionR = 0;
  pathEmissionG = 0;
  pathEmissionB = 0;
  pathLit = 0;
  pathUnshaded = 0;
  pathOpenness = 1;
  pathBehindR = 0;
  pathBehindG = 0;
  pathBehindB = 0;
  pathCover = 0;
  filmX = pictureX;
  filmY = pictureY;
  splitGroups = (load<u32>(scene, SCENE_LAYERS) & LAYER_LIGHTS) !== 0;
  if (splitGroups) memory.fill(groups, 0, <usize>load<u32>(scene, SCENE_GROUPS) * 12);
}

/** Adds light that the path has found, as much of it as it carries. */
export function add(group: u32, r: f32, g: f32, b: f32): void {
  let x = throughR * r,
    y = throughG * g,
    z = throughB * b;
  if (!(x + y + z < 1e30)) return;
  if (limit > 0) {
    const most = max(x, max(y, z));
    if (most > limit) {
      const k = limit / most;
      x *= k;
      y *= k;
      z *= k;
    }
  }
  pathR += x;
  pathG += y;
  pathB += z;
  if (!splitGroups) return;
  const at = groups + <usize>group * 12;
  store<f32>(at, load<f32>(at) + x);
  store<f32>(at, load<f32>(at, 4) + y, 4);
  store<f32>(at, load<f32>(at, 8) + z, 8);
}

/** Adds what the camera sees shine. */
export function addEmission(r: f32, g: f32, b: f32): void {
  pathEmissionR += r;
  pathEmissionG += g;
  pathEmissionB += b;
}

/** Adds to the layer of shadows: luminance with nothing in the light's way, and what of it arrives. */
export function addShadow(unshaded: f32, lit: f32): void {
  pathUnshaded += unshaded;
  pathLit += lit;
}

/** Something stands before what is seen behind, or takes a part of its light away. */
export function cover(share: f32): void {
  pathAlpha = max<f32>(pathAlpha, share);
  pathCover = max<f32>(pathCover, share);
}

/** Adds what is seen behind, straight from the camera. */
export function addBehind(group: u32, r: f32, g: f32, b: f32): void {
  pathAlpha = 1;
  pathBehindR += throughR * r;
  pathBehindG += throughG * g;
  pathBehindB += throughB * b;
  add(group, r, g, b);
}

/** Has the noise filter go by the colours of what is seen behind. */
export function keepAlbedoBehind(r: f32, g: f32, b: f32): void {
  pathAlbedoR = min<f32>(1, r);
  pathAlbedoG = min<f32>(1, g);
  pathAlbedoB = min<f32>(1, b);
}

export function setOpenness(open: f32): void {
  pathOpenness = open;
}

/** Keeps the open surface as the first that the camera meets. @param plain its finish without maps */
export function keepFirst(scene: usize, instance: usize, plain: usize, way: f32, nx: f32, ny: f32, nz: f32): void {
  pathDepth = way;
  pathAxis = depthAlongAxis(surfaceX, surfaceY, surfaceZ);
  pathNormalX = nx;
  pathNormalY = ny;
  pathNormalZ = nz;
  pathPart = load<u32>(instance, INSTANCE_PART);
  pathX = surfaceX;
  pathY = surfaceY;
  pathZ = surfaceZ;
  pathPartHash = load<u32>(instance, INSTANCE_HASH);
  pathFinishHash = load<u32>(plain, FINISH_HASH);
  if (load<u32>(scene, SCENE_LAYERS) & LAYER_MOTION) keepMotion(scene, instance);
}

/** Pixels that the point of the open surface moves until the next frame. */
function keepMotion(scene: usize, instance: usize): void {
  const m = <usize>load<u32>(instance, INSTANCE_NEXT);
  let x = surfaceX,
    y = surfaceY,
    z = surfaceZ;
  if (m !== 0) {
    x = load<f32>(m) * objectX + load<f32>(m, 4) * objectY + load<f32>(m, 8) * objectZ + load<f32>(m, 12);
    y = load<f32>(m, 16) * objectX + load<f32>(m, 20) * objectY + load<f32>(m, 24) * objectZ + load<f32>(m, 28);
    z = load<f32>(m, 32) * objectX + load<f32>(m, 36) * objectY + load<f32>(m, 40) * objectZ + load<f32>(m, 44);
  }
  if (!projectNext(scene, x, y, z)) return;
  pathMotionX = pictureX - filmX;
  pathMotionY = pictureY - filmY;
}

/** Keeps the colour of the surface that is met, which the noise filter goes by. */
export function keepAlbedo(finish: usize): void {
  const clear = load<f32>(finish, FINISH_TRANSMISSION);
  const below = load<f32>(finish, FINISH_SUBSURFACE) * (ONE - clear);
  const base = ONE - clear - below;
  pathAlbedoR = load<f32>(finish, FINISH_BASE) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR) * below + clear;
  pathAlbedoG =
    load<f32>(finish, FINISH_BASE + 4) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR + 4) * below + clear;
  pathAlbedoB =
    load<f32>(finish, FINISH_BASE + 8) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR + 8) * below + clear;
}
