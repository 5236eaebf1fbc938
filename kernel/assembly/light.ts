// Choosing a light for a place: sun and surroundings by what they send everywhere, all others through a tree over them
// (Conty Estevez and Kulla, Importance Sampling of Many Lights with Adaptive Tree Splitting, 2018).

import {
  KIND_PART,
  KIND_SUN,
  KIND_SURROUNDINGS,
  LEAF,
  LIGHT_COS_OUTER,
  LIGHT_EMISSION,
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_INSTANCE,
  LIGHT_KIND,
  LIGHT_NORMAL,
  LIGHT_POSITION,
  LIGHT_SHADOWLESS,
  LINKS_SHIFT,
  LIGHT_SIZE,
  LIGHT_TRAIL,
  LIGHT_WEIGHT,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHT_TREE,
  SCENE_LIGHTS,
  SCENE_LOCAL_LIGHTS,
} from './layout';
import {
  lampB,
  lampDistance,
  lampEndX,
  lampEndY,
  lampEndZ,
  lampG,
  lampPdf,
  lampR,
  lampX,
  lampY,
  lampZ,
  sampleLamp,
} from './lamp';
import { draw1, draw2, drawX, drawY } from './sampler';
import { sampleSky, skyB, skyChosenPdf, skyG, skyR, skyX, skyY, skyZ } from './sky';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;

/** Results of `sampleLight`: unit direction, distance, radiance, density over solid angle including the choice of the light. */
export let lightX: f32 = 0;
export let lightY: f32 = 0;
export let lightZ: f32 = 0;
export let lightDistance: f32 = 0;
/** Where a shadow ray towards it ends, unless it is infinitely far. */
export let lightEndX: f32 = 0;
export let lightEndY: f32 = 0;
export let lightEndZ: f32 = 0;
export let lightR: f32 = 0;
export let lightG: f32 = 0;
export let lightB: f32 = 0;
export let lightPdf: f32 = 0;
export let lightGroup: u32 = 0;
export let lightShadowless: bool = false;
/** Bit of the parts that it lights alone; 0 where it lights all. */
export let lightLinks: u32 = 0;
/** Instance that was sampled as a light, or -1. */
export let lightInstance: i32 = -1;

let keptX: f32 = 0;
let keptY: f32 = 0;
let keptZ: f32 = 0;
let keptDistance: f32 = 0;
let keptEndX: f32 = 0;
let keptEndY: f32 = 0;
let keptEndZ: f32 = 0;
let keptShadowless: bool = false;
/** Keeps where the light sampled last is, and whether anything shades it, for `recallLight`. */
export function keepLight(): void {
  keptX = lightX;
  keptY = lightY;
  keptZ = lightZ;
  keptDistance = lightDistance;
  keptEndX = lightEndX;
  keptEndY = lightEndY;
  keptEndZ = lightEndZ;
  keptShadowless = lightShadowless;
}

/** Keeps the surroundings along a direction instead. */
export function keepDistant(x: f32, y: f32, z: f32): void {
  keptX = x;
  keptY = y;
  keptZ = z;
  keptDistance = 1e20;
  keptShadowless = false;
}

export function recallLight(): void {
  lightX = keptX;
  lightY = keptY;
  lightZ = keptZ;
  lightDistance = keptDistance;
  lightEndX = keptEndX;
  lightEndY = keptEndY;
  lightEndZ = keptEndZ;
  lightShadowless = keptShadowless;
}

// The place lights are chosen for, and its normal; a normal of zero means that light from everywhere counts.
let placeScene: usize = 0;
let placeX: f32 = 0;
let placeY: f32 = 0;
let placeZ: f32 = 0;
let placeNx: f32 = 0;
let placeNy: f32 = 0;
let placeNz: f32 = 0;

// What the tree and everything could send to the place; below 0 while not asked for.
let placeLocal: f32 = -1;
let placeTotal: f32 = 0;

export function openPlace(scene: usize, x: f32, y: f32, z: f32, nx: f32, ny: f32, nz: f32): void {
  // A ray that meets a light asks for the vertex it left, which often is the place that was open last.
  if (
    x === placeX &&
    y === placeY &&
    z === placeZ &&
    nx === placeNx &&
    ny === placeNy &&
    nz === placeNz &&
    scene === placeScene
  )
    return;
  placeScene = scene;
  placeLocal = -1;
  placeX = x;
  placeY = y;
  placeZ = z;
  placeNx = nx;
  placeNy = ny;
  placeNz = nz;
}

/** Forgets the open place: what is at its scene's address may have changed. */
export function closePlace(): void {
  placeScene = 0;
}

/** Cosine of max(0, a - b) from the cosines and sines of both. */
function cosineOfDifference(sineA: f32, cosineA: f32, sineB: f32, cosineB: f32): f32 {
  return cosineA > cosineB ? ONE : cosineA * cosineB + sineA * sineB;
}
function sineOfDifference(sineA: f32, cosineA: f32, sineB: f32, cosineB: f32): f32 {
  return cosineA > cosineB ? <f32>0 : sineA * cosineB - cosineA * sineB;
}
function sineOf(cosine: f32): f32 {
  return sqrt<f32>(max<f32>(0, ONE - cosine * cosine));
}

/** Most that the lights below a node could send to the place, roughly. */
function importance(node: usize): f32 {
  const lx = load<f32>(node),
    ly = load<f32>(node, 4),
    lz = load<f32>(node, 8);
  const hx = load<f32>(node, 12),
    hy = load<f32>(node, 16),
    hz = load<f32>(node, 20);
  const ex = (hx - lx) * 0.5,
    ey = (hy - ly) * 0.5,
    ez = (hz - lz) * 0.5;
  const radius2 = ex * ex + ey * ey + ez * ez;
  const dx = placeX - (lx + ex),
    dy = placeY - (ly + ey),
    dz = placeZ - (lz + ez);
  const d2 = dx * dx + dy * dy + dz * dz;
  const intensity = load<f32>(node, 24) / max<f32>(1e-12, max<f32>(d2, radius2));
  if (d2 <= radius2) return intensity;
  const inv = ONE / sqrt<f32>(d2);
  const sineBounds = sqrt<f32>(radius2 / d2),
    cosineBounds = sineOf(sineBounds);
  const cosineAxis = (dx * load<f32>(node, 28) + dy * load<f32>(node, 32) + dz * load<f32>(node, 36)) * inv;
  const cosineSpread = load<f32>(node, 40);
  const sineAxis = sineOf(cosineAxis),
    sineSpread = sineOf(cosineSpread);
  const c = cosineOfDifference(sineAxis, cosineAxis, sineSpread, cosineSpread);
  const s = sineOfDifference(sineAxis, cosineAxis, sineSpread, cosineSpread);
  const emission = cosineOfDifference(s, c, sineBounds, cosineBounds);
  if (emission <= load<f32>(node, 44)) return 0;
  let cosine: f32 = 1;
  if (placeNx !== 0 || placeNy !== 0 || placeNz !== 0) {
    const n = abs(dx * placeNx + dy * placeNy + dz * placeNz) * inv;
    cosine = max<f32>(0.02, cosineOfDifference(sineOf(n), n, sineBounds, cosineBounds));
  }
  return intensity * max<f32>(0.02, emission) * cosine;
}

/** What sun or surroundings send to the place. */
function distantImportance(light: usize): f32 {
  return load<f32>(light, LIGHT_WEIGHT);
}

function weighLights(scene: usize): void {
  if (placeLocal >= 0) return;
  const tree = <usize>load<u32>(scene, SCENE_LIGHT_TREE);
  placeLocal = tree !== 0 ? importance(tree) : <f32>0;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  placeTotal = placeLocal;
  for (let k = load<u32>(scene, SCENE_LOCAL_LIGHTS); k < count; k++)
    placeTotal += distantImportance(lights + <usize>k * LIGHT_SIZE);
}

/** Chance that `sampleLight` for the open place picks this light. */
export function chanceOf(scene: usize, index: i32): f32 {
  if (index < 0) return 0;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const light = lights + <usize>index * LIGHT_SIZE;
  weighLights(scene);
  const total = placeTotal;
  if (!(total > 0)) return 0;
  if (<u32>index >= load<u32>(scene, SCENE_LOCAL_LIGHTS)) return distantImportance(light) / total;
  let node = <usize>load<u32>(scene, SCENE_LIGHT_TREE);
  let chance = placeLocal / total;
  let trail = load<u32>(light, LIGHT_TRAIL);
  let left = load<u32>(node, 48);
  while (!(left & (<u32>LEAF))) {
    const right = load<u32>(node, 52);
    const a = importance(<usize>left),
      b = importance(<usize>right);
    if (!(a + b > 0)) return 0;
    chance *= (trail & 1 ? b : a) / (a + b);
    node = <usize>(trail & 1 ? right : left);
    trail >>= 1;
    left = load<u32>(node, 48);
  }
  return chance;
}

/** Number of the light chosen by `pickLight`. */
export let pickedLight: u32 = 0;

/** Chooses a light for the open place by a number from 0 to 1 and returns the chance of that choice, 0 where nothing shines this way. */
function pickLight(scene: usize, pick: f32): f32 {
  weighLights(scene);
  const total = placeTotal,
    local = placeLocal;
  let choice = pick * total;
  if (!(total > 0)) return 0;
  if (choice < local) {
    let u = choice / local;
    let chance = local / total;
    let node = <usize>load<u32>(scene, SCENE_LIGHT_TREE);
    for (;;) {
      const left = load<u32>(node, 48);
      if (left & (<u32>LEAF)) {
        pickedLight = left & ~(<u32>LEAF);
        return chance;
      }
      const right = load<u32>(node, 52);
      const a = importance(<usize>left),
        b = importance(<usize>right);
      if (!(a + b > 0)) return 0;
      const share = a / (a + b);
      if (u < share) {
        u /= share;
        chance *= share;
        node = <usize>left;
      } else {
        u = min<f32>(0.9999999, (u - share) / (ONE - share));
        chance *= ONE - share;
        node = <usize>right;
      }
    }
  }
  choice -= local;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  let weight: f32 = 0;
  for (let k = load<u32>(scene, SCENE_LOCAL_LIGHTS); k < count; k++) {
    weight = distantImportance(lights + <usize>k * LIGHT_SIZE);
    pickedLight = k;
    choice -= weight;
    if (choice < 0) break;
  }
  return weight / total;
}

/** What a light could send into fog along a ray of which `end` counts: distant ones by the way, others by how near it passes. */
function rayWeight(scene: usize, k: u32, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, end: f32): f32 {
  const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>k * LIGHT_SIZE;
  const weight = load<f32>(light, LIGHT_WEIGHT);
  if (k >= load<u32>(scene, SCENE_LOCAL_LIGHTS)) return weight * end;
  const cx = load<f32>(light, LIGHT_POSITION) - ox,
    cy = load<f32>(light, LIGHT_POSITION + 4) - oy,
    cz = load<f32>(light, LIGHT_POSITION + 8) - oz;
  const along = max<f32>(0, min<f32>(end, cx * dx + cy * dy + cz * dz));
  const x = cx - along * dx,
    y = cy - along * dy,
    z = cz - along * dz;
  // Over an endless ray it is π over the distance; of what is far away the ray is short.
  const away = max<f32>(1, sqrt<f32>(x * x + y * y + z * z));
  return (weight / away) * min(PI, end / away);
}

/** Chooses a light for fog along a ray and returns the chance of that choice. */
export function pickLightForRay(scene: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, end: f32): f32 {
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  let total: f32 = 0;
  for (let k: u32 = 0; k < count; k++) total += rayWeight(scene, k, ox, oy, oz, dx, dy, dz, end);
  let choice = draw1() * total;
  if (!(total > 0)) return 0;
  let weight: f32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    weight = rayWeight(scene, k, ox, oy, oz, dx, dy, dz, end);
    if (weight > 0) pickedLight = k;
    choice -= weight;
    if (choice < 0) break;
  }
  return weight / total;
}

/** Picks a light for the open place by a number from 0 to 1, and a point on it. False where nothing shines this way. */
export function sampleLight(scene: usize, pick: f32): bool {
  const chance = pickLight(scene, pick);
  draw2();
  return chance > 0 && sampleChosen(scene, pickedLight, chance);
}

/** A point on a given light, or a direction towards it, for the open place and the numbers drawn last; `chance` is that of the choice. */
export function sampleChosen(scene: usize, index: u32, chance: f32): bool {
  const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>index * LIGHT_SIZE;
  lightGroup = load<u32>(light, LIGHT_GROUP);
  lightShadowless = (load<u32>(light, LIGHT_FLAGS) & LIGHT_SHADOWLESS) !== 0;
  lightLinks = load<u32>(light, LIGHT_FLAGS) >> LINKS_SHIFT;
  lightInstance = load<i32>(light, LIGHT_KIND) === KIND_PART ? load<i32>(light, LIGHT_INSTANCE) : -1;
  if (load<i32>(light, LIGHT_KIND) === KIND_SURROUNDINGS) {
    if (!sampleSky(scene, drawX, drawY)) return false;
    lightX = skyX;
    lightY = skyY;
    lightZ = skyZ;
    lightDistance = 1e20;
    lightR = skyR;
    lightG = skyG;
    lightB = skyB;
    lightPdf = chance * skyChosenPdf;
    return true;
  }
  if (!sampleLamp(scene, light, placeX, placeY, placeZ, drawX, drawY)) return false;
  lightX = lampX;
  lightY = lampY;
  lightZ = lampZ;
  lightDistance = lampDistance;
  lightEndX = lampEndX;
  lightEndY = lampEndY;
  lightEndZ = lampEndZ;
  lightR = lampR;
  lightG = lampG;
  lightB = lampB;
  lightPdf = chance * lampPdf;
  return true;
}

/** Whether a light is a sun that stands in a direction; then its radiance, group and density without the choice are set. */
export function sunAt(scene: usize, index: u32, dx: f32, dy: f32, dz: f32): bool {
  const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>index * LIGHT_SIZE;
  if (load<i32>(light, LIGHT_KIND) !== KIND_SUN) return false;
  const cosine =
    dx * load<f32>(light, LIGHT_NORMAL) +
    dy * load<f32>(light, LIGHT_NORMAL + 4) +
    dz * load<f32>(light, LIGHT_NORMAL + 8);
  const outer = load<f32>(light, LIGHT_COS_OUTER);
  if (cosine < outer) return false;
  lightR = load<f32>(light, LIGHT_EMISSION);
  lightG = load<f32>(light, LIGHT_EMISSION + 4);
  lightB = load<f32>(light, LIGHT_EMISSION + 8);
  lightPdf = ONE / (2 * PI * (ONE - outer));
  lightGroup = load<u32>(light, LIGHT_GROUP);
  lightShadowless = (load<u32>(light, LIGHT_FLAGS) & LIGHT_SHADOWLESS) !== 0;
  return true;
}
