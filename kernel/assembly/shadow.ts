// Whether a light that was sampled reaches a place, and how much of it. `reachR`, G, B are written by `lightReaches` and
// `passesThrough`; `mapR`, G, B by `lampMap`.

import { isCut, mayBeCut } from './cut';
import { straightThrough, weightB, weightG, weightR } from './finish/sample';
import { lampTriangle, lampU, lampV } from './lamp';
import {
  FINISH_EMISSION,
  FINISH_MAP_COUNT,
  FINISH_OPACITY,
  FINISH_THIN,
  INSTANCE_FINISH,
  INSTANCE_SIZE,
  SCENE_INSTANCES,
  SCENE_UNSHADOWED,
} from './layout';
import { lightEndX, lightEndY, lightEndZ, lightInstance, lightX, lightY, lightZ } from './light';
import { keepPoint, pointOfLamp, pointOfWall } from './point';
import {
  flatX,
  flatY,
  flatZ,
  openSurface,
  openTexture,
  smoothX,
  smoothY,
  smoothZ,
  surfaceInstance,
  surfaceLift,
  surfaceX,
  surfaceY,
  surfaceZ,
} from './surface';
import { mappedFinish } from './map/stack';
import { hideParts, setHit, trace } from './traverse';

const ONE: f32 = 1;
const FAR: f32 = 1e20;
/** Walls of thin glass that light may pass on its way. */
const MOST_PASSES = 24;

export let mapR: f32 = 1;
export let mapG: f32 = 1;
export let mapB: f32 = 1;
/** What the maps of a sampled luminous part make of its light there. */
export function lampMap(scene: usize): void {
  mapR = 1;
  mapG = 1;
  mapB = 1;
  const instance = <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>lightInstance * INSTANCE_SIZE;
  const plain = <usize>load<u32>(instance, INSTANCE_FINISH);
  if (load<u32>(plain, FINISH_MAP_COUNT) === 0) return;
  disturbed = true;
  setHit(lightInstance, lampTriangle, lampU, lampV);
  openSurface(scene);
  openTexture(scene);
  keepPoint(scene, pointOfLamp, instance, 0, lightX * smoothX + lightY * smoothY + lightZ * smoothZ);
  const finish = mappedFinish(plain, pointOfLamp);
  mapR = load<f32>(finish, FINISH_EMISSION);
  mapG = load<f32>(finish, FINISH_EMISSION + 4);
  mapB = load<f32>(finish, FINISH_EMISSION + 8);
}

export let reachR: f32 = 1;
export let reachG: f32 = 1;
export let reachB: f32 = 1;
/** A light sample has opened other finishes, or used the room of a mapped one. */
export let disturbed = false;

let towardsX: f32 = 0;
let towardsY: f32 = 0;
let towardsZ: f32 = 0;
/** Turns a shadow ray from a place to its end; returns how far that is. */
function aimShadowRay(x: f32, y: f32, z: f32): f32 {
  const dx = lightEndX - x,
    dy = lightEndY - y,
    dz = lightEndZ - z;
  const distance = sqrt<f32>(dx * dx + dy * dy + dz * dz);
  const inv = ONE / max<f32>(1e-30, distance);
  towardsX = dx * inv;
  towardsY = dy * inv;
  towardsZ = dz * inv;
  return distance;
}

/** The light that reached a place last went through parts that throw no shadow: a ray could not have met it. */
export let passedParts: bool = false;

/**
 * Whether the light sampled last reaches a place, and how much thin clear walls and holes on the way let pass. Both ends are lifted off
 * their surfaces already. A distant light comes along its direction. Parts with any of the flags `unseen` stand in no light's way.
 */
export function lightReaches(
  scene: usize,
  fromX: f32,
  fromY: f32,
  fromZ: f32,
  lx: f32,
  ly: f32,
  lz: f32,
  distant: bool,
  unseen: u32,
): bool {
  beginReach(1);
  hideParts(unseen);
  const unshadowed = load<u32>(scene, SCENE_UNSHADOWED) !== 0;
  passedParts = false;
  let x = fromX,
    y = fromY,
    z = fromZ;
  towardsX = lx;
  towardsY = ly;
  towardsZ = lz;
  let reach: f32 = distant ? FAR : aimShadowRay(x, y, z);
  for (let wall = 0; wall < MOST_PASSES; wall++) {
    if (!trace(scene, x, y, z, towardsX, towardsY, towardsZ, 0, reach, true)) {
      if (unshadowed && !passedParts) {
        hideParts(0);
        passedParts = trace(scene, x, y, z, towardsX, towardsY, towardsZ, 0, reach, true);
      }
      return true;
    }
    disturbed = true;
    const finish = <usize>load<u32>(surfaceInstance(scene), INSTANCE_FINISH);
    if (
      !mayBeCut(scene) &&
      load<f32>(finish, FINISH_THIN) <= 0 &&
      load<f32>(finish, FINISH_OPACITY) >= 1 &&
      load<u32>(finish, FINISH_MAP_COUNT) === 0
    )
      return false;
    if (!trace(scene, x, y, z, towardsX, towardsY, towardsZ, 0, reach, false)) return true;
    openSurface(scene);
    if (
      !isCut(scene) &&
      !passesThrough(
        finishThere(scene, surfaceInstance(scene), towardsX, towardsY, towardsZ),
        towardsX,
        towardsY,
        towardsZ,
      )
    )
      return false;
    const lift = surfaceLift(scene);
    const away: f32 = towardsX * flatX + towardsY * flatY + towardsZ * flatZ > 0 ? lift : -lift;
    x = surfaceX + flatX * away;
    y = surfaceY + flatY * away;
    z = surfaceZ + flatZ * away;
    if (distant) continue;
    reach = aimShadowRay(x, y, z);
    // Past its end: the last wall stood right before it.
    if (towardsX * lx + towardsY * ly + towardsZ * lz <= 0) return true;
  }
  return false;
}

/** Finish of the open surface with its maps, seen along a direction. */
export function finishThere(scene: usize, instance: usize, dx: f32, dy: f32, dz: f32): usize {
  const plain = <usize>load<u32>(instance, INSTANCE_FINISH);
  if (load<u32>(plain, FINISH_MAP_COUNT) === 0) return plain;
  openTexture(scene);
  keepPoint(scene, pointOfWall, instance, 0, dx * smoothX + dy * smoothY + dz * smoothZ);
  return mappedFinish(plain, pointOfWall);
}

/** Takes what the open surface stops out of reachR, G, B. False where nothing is left. */
export function passesThrough(finish: usize, dx: f32, dy: f32, dz: f32): bool {
  const opacity = load<f32>(finish, FINISH_OPACITY);
  straightThrough(finish, abs(dx * smoothX + dy * smoothY + dz * smoothZ));
  reachR *= ONE - opacity + opacity * weightR;
  reachG *= ONE - opacity + opacity * weightG;
  reachB *= ONE - opacity + opacity * weightB;
  return reachR + reachG + reachB > 1e-6;
}

/** What a light is let through with before anything on its way was met. */
export function beginReach(whole: f32): void {
  reachR = whole;
  reachG = whole;
  reachB = whole;
}

/** The finish that scattering is evaluated with is open as it was. */
export function settleFinish(): void {
  disturbed = false;
}
