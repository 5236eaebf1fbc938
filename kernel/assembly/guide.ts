// Where lamps are that no light sample can reach, because clear matter bends their light on its way: spheres about them, in
// which directions are tried from wide surfaces. Combined with the finish's own choice, so nothing is counted twice.

import { GUIDE_SIZE, SCENE_GUIDES, SCENE_GUIDE_COUNT } from './layout';
import { lampX, lampY, lampZ, sampleCone, sphereSpread } from './lamp';

const RADIUS: usize = 12;
const RADIUS_WITHIN: usize = 20;

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Direction chosen by `chooseGuide`. */
export let guideX: f32 = 0;
export let guideY: f32 = 0;
export let guideZ: f32 = 0;

let x: f32 = 0;
let y: f32 = 0;
let z: f32 = 0;
let total: f32 = 0;
/** Where a guide holds its radius for the open place. */
let radiusAt: usize = RADIUS;

function radiusOf(guide: usize): f32 {
  return load<f32>(guide + radiusAt);
}

function weightOf(guide: usize): f32 {
  const dx = load<f32>(guide) - x,
    dy = load<f32>(guide, 4) - y,
    dz = load<f32>(guide, 8) - z;
  const radius = radiusOf(guide);
  const d2 = dx * dx + dy * dy + dz * dz;
  // From within its sphere a guide says nothing.
  if (radius <= 0 || d2 <= radius * radius * <f32>1.02) return 0;
  return load<f32>(guide, 16) / d2;
}

/** Sets the place to look from, on a surface or within a lens. False where no guide says anything. */
export function openGuides(scene: usize, px: f32, py: f32, pz: f32, within: bool): bool {
  const count = load<u32>(scene, SCENE_GUIDE_COUNT);
  if (count === 0) return false;
  radiusAt = within ? RADIUS_WITHIN : RADIUS;
  x = px;
  y = py;
  z = pz;
  total = 0;
  const guides = <usize>load<u32>(scene, SCENE_GUIDES);
  for (let k: u32 = 0; k < count; k++) total += weightOf(guides + <usize>k * GUIDE_SIZE);
  return total > 0;
}

export function chooseGuide(scene: usize, choice: f32, u: f32, v: f32): void {
  const guides = <usize>load<u32>(scene, SCENE_GUIDES);
  const count = load<u32>(scene, SCENE_GUIDE_COUNT);
  let c = choice * total;
  let guide = guides;
  for (let k: u32 = 0; k < count; k++) {
    const at = guides + <usize>k * GUIDE_SIZE;
    const weight = weightOf(at);
    if (weight > 0) guide = at;
    c -= weight;
    if (c < 0) break;
  }
  const dx = load<f32>(guide) - x,
    dy = load<f32>(guide, 4) - y,
    dz = load<f32>(guide, 8) - z;
  const d2 = dx * dx + dy * dy + dz * dz;
  const inv = ONE / sqrt<f32>(d2);
  sampleCone(dx * inv, dy * inv, dz * inv, sphereSpread(radiusOf(guide), d2), u, v);
  guideX = lampX;
  guideY = lampY;
  guideZ = lampZ;
}

/** Density of `chooseGuide` for a direction. */
export function guidePdf(scene: usize, dx: f32, dy: f32, dz: f32): f32 {
  const guides = <usize>load<u32>(scene, SCENE_GUIDES);
  const count = load<u32>(scene, SCENE_GUIDE_COUNT);
  let sum: f32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    const guide = guides + <usize>k * GUIDE_SIZE;
    const weight = weightOf(guide);
    if (weight <= 0) continue;
    const gx = load<f32>(guide) - x,
      gy = load<f32>(guide, 4) - y,
      gz = load<f32>(guide, 8) - z;
    const d2 = gx * gx + gy * gy + gz * gz;
    const spread = sphereSpread(radiusOf(guide), d2);
    const cosine = (gx * dx + gy * dy + gz * dz) / sqrt<f32>(d2);
    if (ONE - cosine <= spread) sum += weight / (TWO * PI * spread);
  }
  return sum / total;
}
