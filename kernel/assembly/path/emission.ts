// Light that a ray meets on its way: lamps without a body, parts that shine, and what shines straight into the lens.

import { aimThrough, directionX, directionY, directionZ, isOpen, originX, originY, originZ } from '../camera';
import { isCut } from '../cut';
import { lampAlong, lampB, lampG, lampHit, lampPdf, lampR } from '../lamp';
import {
  FINISH_EMISSION,
  FINISH_OPACITY,
  INSTANCE_CATCHES,
  INSTANCE_DARK_TO_CAMERA,
  INSTANCE_EMISSION,
  INSTANCE_FLAGS,
  INSTANCE_HIDES,
  INSTANCE_LIGHT,
  INSTANCE_TWO_SIDED,
  INSTANCE_UNSEEN,
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_SEEN,
  LIGHT_SIZE,
  SCENE_LAMPS,
  SCENE_LIGHTS,
} from '../layout';
import { chooseLensPoint, lensWeight, pointX, pointY } from '../lensGuide';
import { passB, passG, passR, transmit } from '../media';
import { draw1, draw2, drawX, drawY } from '../sampler';
import { beginReach, finishThere, passesThrough, reachB, reachG, reachR } from '../shadow';
import {
  flatX,
  flatY,
  flatZ,
  openSurface,
  surfaceInstance,
  surfaceLift,
  surfaceX,
  surfaceY,
  surfaceZ,
} from '../surface';
import { hideParts, hitT, trace } from '../traverse';
import { add, addEmission, cover } from './outputs';
import { meetWeight, vertexPdf, vertexX, vertexY, vertexZ } from './vertex';

const FAR: f32 = 1e20;
/** Walls of thin glass that light may pass on its way into the lens. */
const MOST_WALLS = 24;

export let emittedR: f32 = 0;
export let emittedG: f32 = 0;
export let emittedB: f32 = 0;
/** Whether a part gives light where it was met; its radiance then is in emittedR, G, B. */
export function emits(instance: usize, finish: usize, inside: bool, straight: bool): bool {
  const flags = load<u32>(instance, INSTANCE_FLAGS);
  if ((inside && !(flags & INSTANCE_TWO_SIDED)) || (straight && flags & INSTANCE_DARK_TO_CAMERA)) return false;
  emittedR = load<f32>(instance, INSTANCE_EMISSION) * load<f32>(finish, FINISH_EMISSION);
  emittedG = load<f32>(instance, INSTANCE_EMISSION + 4) * load<f32>(finish, FINISH_EMISSION + 4);
  emittedB = load<f32>(instance, INSTANCE_EMISSION + 8) * load<f32>(finish, FINISH_EMISSION + 8);
  return emittedR + emittedG + emittedB > 0;
}

/** Light layer of a part's light, by its number or -1. */
export function groupOf(scene: usize, light: i32): u32 {
  return light >= 0 ? load<u32>(<usize>load<u32>(scene, SCENE_LIGHTS) + <usize>light * LIGHT_SIZE, LIGHT_GROUP) : 0;
}

/**
 * Adds what shines straight into the lens at a point of it where a guide lets it be expected. The camera's own ray counts the same
 * light with the rest of the weight.
 */
export function addThroughLens(scene: usize): void {
  const choice = draw1();
  draw2();
  if (!chooseLensPoint(scene, choice, drawX, drawY) || !isOpen(scene, pointX, pointY)) return;
  aimThrough(pointX, pointY);
  const dx = directionX,
    dy = directionY,
    dz = directionZ;
  const w = lensWeight(scene, pointX, pointY);
  beginReach(w);
  let ox = originX,
    oy = originY,
    oz = originZ;
  let before: f32 = 0;
  for (let wall = 0; wall < MOST_WALLS; wall++) {
    hideParts(INSTANCE_UNSEEN);
    const hit = trace(scene, ox, oy, oz, dx, dy, dz, 0, FAR, false);
    const at = hitT;
    const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
    const lamps = load<u32>(scene, SCENE_LAMPS);
    for (let k: u32 = 0; k < lamps; k++) {
      const light = lights + <usize>k * LIGHT_SIZE;
      if (!(load<u32>(light, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
      const t = lampAlong(light, ox, oy, oz, dx, dy, dz, at);
      if (t <= 0) continue;
      lampHit(light, ox, oy, oz, dx, dy, dz, t);
      addReached(load<u32>(light, LIGHT_GROUP), before + t, lampR, lampG, lampB);
    }
    if (!hit) return;
    before += at;
    openSurface(scene);
    const instance = surfaceInstance(scene);
    const cut = isCut(scene);
    const finish = finishThere(scene, instance, dx, dy, dz);
    const opacity = load<f32>(finish, FINISH_OPACITY);
    const inside = dx * flatX + dy * flatY + dz * flatZ > 0;
    const ofPlate = (load<u32>(instance, INSTANCE_FLAGS) & (INSTANCE_HIDES | INSTANCE_CATCHES)) !== 0;
    if (!cut && !ofPlate && emits(instance, finish, inside, true)) {
      addReached(
        groupOf(scene, load<i32>(instance, INSTANCE_LIGHT)),
        before,
        opacity * emittedR,
        opacity * emittedG,
        opacity * emittedB,
      );
    }
    if (!cut && !passesThrough(finish, dx, dy, dz)) return;
    const away: f32 = inside ? surfaceLift(scene) : -surfaceLift(scene);
    ox = surfaceX + flatX * away;
    oy = surfaceY + flatY * away;
    oz = surfaceZ + flatZ * away;
  }
}

/**
 * Adds the lamps that a ray passes on its way to `end`. They have no body: the ray goes on, and what comes from behind them comes
 * through. `weight` is for rays straight from the camera.
 */
export function meetLamps(
  scene: usize,
  ox: f32,
  oy: f32,
  oz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  end: f32,
  travelled: f32,
  straight: bool,
  weight: f32,
): void {
  // From fog, light samples have counted them all.
  if (vertexPdf < 0) return;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const lamps = load<u32>(scene, SCENE_LAMPS);
  for (let k: u32 = 0; k < lamps; k++) {
    const light = lights + <usize>k * LIGHT_SIZE;
    if (straight && !(load<u32>(light, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
    const t = lampAlong(light, ox, oy, oz, dx, dy, dz, end);
    if (t <= 0) continue;
    lampHit(light, vertexX, vertexY, vertexZ, dx, dy, dz, travelled + t);
    let r = lampR,
      g = lampG,
      b = lampB;
    const w = straight ? weight : meetWeight(scene, <i32>k, lampPdf);
    transmit(t);
    r *= w * passR;
    g *= w * passG;
    b *= w * passB;
    add(load<u32>(light, LIGHT_GROUP), r, g, b);
    if (straight) {
      cover(1);
      addEmission(r, g, b);
    }
  }
}

/** Adds light from a distance along a ray that carries what walls before it let pass. */
function addReached(group: u32, distance: f32, r: f32, g: f32, b: f32): void {
  transmit(distance);
  const x = r * reachR * passR,
    y = g * reachG * passG,
    z = b * reachB * passB;
  add(group, x, y, z);
  addEmission(x, y, z);
}
