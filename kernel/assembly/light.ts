// Lights: choosing one for a point, a point on it, and the density of having done so.
// One light is chosen in proportion to what it could send to the point: its power over the squared distance, no nearer than
// its own size. Surroundings are picked from a table over their pixels.

import {
  INSTANCE_MESH,
  INSTANCE_SIZE,
  INSTANCE_TO_WORLD,
  KIND_BULB,
  KIND_PANEL,
  KIND_SURROUNDINGS,
  LIGHT_AREA,
  LIGHT_CAMERA,
  LIGHT_EMISSION,
  LIGHT_INSTANCE,
  LIGHT_KIND,
  LIGHT_NORMAL,
  LIGHT_POSITION,
  LIGHT_RADIUS,
  LIGHT_SIZE,
  LIGHT_WEIGHT,
  LIGHT_X,
  LIGHT_Y,
  MESH_CDF,
  MESH_INDICES,
  MESH_POSITIONS,
  MESH_TRIANGLES,
  SCENE_INSTANCES,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHTS,
  SCENE_SKY,
  SCENE_SKY_BRIGHTNESS,
  SCENE_SKY_TURN,
  SKY_COLUMNS,
  SKY_HEIGHT,
  SKY_MEAN,
  SKY_PIXELS,
  SKY_ROWS,
  SKY_WEIGHT,
  SKY_WIDTH,
} from './layout';
import { draw1, draw2, drawX, drawY } from './sampler';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Results of `sampleLight`: unit direction, distance, radiance, density over solid angle including the choice of the light. */
export let lightX: f32 = 0;
export let lightY: f32 = 0;
export let lightZ: f32 = 0;
export let lightDistance: f32 = 0;
export let lightR: f32 = 0;
export let lightG: f32 = 0;
export let lightB: f32 = 0;
export let lightPdf: f32 = 0;

/** Radiance looked up last by `skyRadiance`. */
export let skyR: f32 = 0;
export let skyG: f32 = 0;
export let skyB: f32 = 0;

function weightAt(scene: usize, light: usize, px: f32, py: f32, pz: f32): f32 {
  const kind = load<i32>(light, LIGHT_KIND);
  const weight = load<f32>(light, LIGHT_WEIGHT);
  if (kind == KIND_SURROUNDINGS) return weight;
  const dx = load<f32>(light, LIGHT_POSITION) - px;
  const dy = load<f32>(light, LIGHT_POSITION + 4) - py;
  const dz = load<f32>(light, LIGHT_POSITION + 8) - pz;
  const reach = load<f32>(light, LIGHT_RADIUS);
  return weight / max<f32>(dx * dx + dy * dy + dz * dz, reach * reach);
}

/** Sum of all weights at a point, kept with a path's vertex so that hits of lights later know their density. */
export function totalWeight(scene: usize, px: f32, py: f32, pz: f32): f32 {
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  let sum: f32 = 0;
  for (let k: u32 = 0; k < count; k++) sum += weightAt(scene, lights + <usize>k * LIGHT_SIZE, px, py, pz);
  return sum;
}

/** Chance that `sampleLight` at a point picks this light. */
export function chanceOf(scene: usize, index: i32, px: f32, py: f32, pz: f32, total: f32): f32 {
  if (index < 0 || !(total > 0)) return 0;
  const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>index * LIGHT_SIZE;
  return weightAt(scene, light, px, py, pz) / total;
}

/** Picks a light and a point on it as seen from (px, py, pz). False where nothing shines this way. */
export function sampleLight(scene: usize, px: f32, py: f32, pz: f32, total: f32): bool {
  let choice = draw1() * total;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  if (count == 0 || !(total > 0)) {
    draw2();
    return false;
  }
  let light = lights;
  let weight: f32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    light = lights + <usize>k * LIGHT_SIZE;
    weight = weightAt(scene, light, px, py, pz);
    choice -= weight;
    if (choice < 0) break;
  }
  draw2();
  const chance = weight / total;
  if (!(chance > 0)) return false;
  const kind = load<i32>(light, LIGHT_KIND);
  if (kind == KIND_SURROUNDINGS) return sampleSky(scene, drawX, drawY, chance);
  lightR = load<f32>(light, LIGHT_EMISSION);
  lightG = load<f32>(light, LIGHT_EMISSION + 4);
  lightB = load<f32>(light, LIGHT_EMISSION + 8);
  if (kind == KIND_PANEL) return samplePanel(light, px, py, pz, drawX, drawY, chance);
  if (kind == KIND_BULB) return sampleBulb(light, px, py, pz, drawX, drawY, chance);
  return samplePart(scene, light, px, py, pz, drawX, drawY, chance);
}

/** Sets direction and distance towards a point of a surface; density from its area. False where seen from behind. */
function towardsSurface(px: f32, py: f32, pz: f32, x: f32, y: f32, z: f32, nx: f32, ny: f32, nz: f32, area: f32, chance: f32): bool {
  const dx = x - px, dy = y - py, dz = z - pz;
  const d2 = dx * dx + dy * dy + dz * dz;
  if (!(d2 > 1e-12)) return false;
  const d = sqrt<f32>(d2);
  lightX = dx / d;
  lightY = dy / d;
  lightZ = dz / d;
  lightDistance = d;
  const cosine = -(lightX * nx + lightY * ny + lightZ * nz);
  if (cosine <= 1e-5) return false;
  lightPdf = (chance * d2) / (cosine * area);
  return true;
}

function samplePanel(light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32, chance: f32): bool {
  const a = TWO * u - 1, b = TWO * v - 1;
  return towardsSurface(
    px, py, pz,
    load<f32>(light, LIGHT_POSITION) + a * load<f32>(light, LIGHT_X) + b * load<f32>(light, LIGHT_Y),
    load<f32>(light, LIGHT_POSITION + 4) + a * load<f32>(light, LIGHT_X + 4) + b * load<f32>(light, LIGHT_Y + 4),
    load<f32>(light, LIGHT_POSITION + 8) + a * load<f32>(light, LIGHT_X + 8) + b * load<f32>(light, LIGHT_Y + 8),
    load<f32>(light, LIGHT_NORMAL), load<f32>(light, LIGHT_NORMAL + 4), load<f32>(light, LIGHT_NORMAL + 8),
    load<f32>(light, LIGHT_AREA), chance,
  );
}

/** Uniform over the cone in which a sphere is seen (Shirley, Wang and Zimmerman, Monte Carlo Techniques for Direct Lighting, 1996). */
function sampleBulb(light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32, chance: f32): bool {
  const cx = load<f32>(light, LIGHT_POSITION) - px, cy = load<f32>(light, LIGHT_POSITION + 4) - py, cz = load<f32>(light, LIGHT_POSITION + 8) - pz;
  const radius = load<f32>(light, LIGHT_RADIUS);
  const d2 = cx * cx + cy * cy + cz * cz;
  if (d2 <= radius * radius * 1.0001) return false;
  const d = sqrt<f32>(d2);
  const spread = bulbSpread(radius, d2);
  const oneLess = u * spread; // 1 - cos, which keeps its digits for a far and small bulb
  const cosine = ONE - oneLess;
  const sine = sqrt<f32>(max<f32>(0, oneLess * (TWO - oneLess)));
  const phi = TWO * PI * v;
  const zx = cx / d, zy = cy / d, zz = cz / d;
  makeBasis(zx, zy, zz);
  const a = sine * Mathf.cos(phi), b = sine * Mathf.sin(phi);
  lightX = a * basisXx + b * basisYx + cosine * zx;
  lightY = a * basisXy + b * basisYy + cosine * zy;
  lightZ = a * basisXz + b * basisYz + cosine * zz;
  lightDistance = d * cosine - sqrt<f32>(max<f32>(0, radius * radius - d2 * sine * sine));
  lightPdf = chance / (TWO * PI * spread);
  return true;
}

/** 1 - cosine of the half angle under which a bulb is seen. */
function bulbSpread(radius: f32, d2: f32): f32 {
  const s2 = (radius * radius) / d2;
  return s2 / (ONE + sqrt<f32>(max<f32>(0, ONE - s2)));
}

function samplePart(scene: usize, light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32, chance: f32): bool {
  const instance = <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>load<u32>(light, LIGHT_INSTANCE) * INSTANCE_SIZE;
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const cdf = <usize>load<u32>(mesh, MESH_CDF);
  const triangles = load<u32>(mesh, MESH_TRIANGLES);
  let low: u32 = 0;
  let high: u32 = triangles - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (load<f32>(cdf + (<usize>middle << 2)) <= u) low = middle + 1;
    else high = middle;
  }
  const before: f32 = low > 0 ? load<f32>(cdf + (<usize>(low - 1) << 2)) : 0;
  const span = load<f32>(cdf + (<usize>low << 2)) - before;
  const again: f32 = span > 0 ? min<f32>(0.9999999, (u - before) / span) : 0;
  const root = sqrt<f32>(again);
  const b1 = ONE - root, b2 = v * root, b0 = ONE - b1 - b2;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>low * 12;
  const p0 = positions + <usize>load<u32>(index) * 12, p1 = positions + <usize>load<u32>(index, 4) * 12, p2 = positions + <usize>load<u32>(index, 8) * 12;
  const e1x = load<f32>(p1) - load<f32>(p0), e1y = load<f32>(p1, 4) - load<f32>(p0, 4), e1z = load<f32>(p1, 8) - load<f32>(p0, 8);
  const e2x = load<f32>(p2) - load<f32>(p0), e2y = load<f32>(p2, 4) - load<f32>(p0, 4), e2z = load<f32>(p2, 8) - load<f32>(p0, 8);
  const x = load<f32>(p0) * b0 + load<f32>(p1) * b1 + load<f32>(p2) * b2;
  const y = load<f32>(p0, 4) * b0 + load<f32>(p1, 4) * b1 + load<f32>(p2, 4) * b2;
  const z = load<f32>(p0, 8) * b0 + load<f32>(p1, 8) * b1 + load<f32>(p2, 8) * b2;
  const m = instance + INSTANCE_TO_WORLD;
  // Edges go to the world and are crossed there: right for any scale, mirrored ones included.
  const a1x = load<f32>(m) * e1x + load<f32>(m, 4) * e1y + load<f32>(m, 8) * e1z;
  const a1y = load<f32>(m, 16) * e1x + load<f32>(m, 20) * e1y + load<f32>(m, 24) * e1z;
  const a1z = load<f32>(m, 32) * e1x + load<f32>(m, 36) * e1y + load<f32>(m, 40) * e1z;
  const a2x = load<f32>(m) * e2x + load<f32>(m, 4) * e2y + load<f32>(m, 8) * e2z;
  const a2y = load<f32>(m, 16) * e2x + load<f32>(m, 20) * e2y + load<f32>(m, 24) * e2z;
  const a2z = load<f32>(m, 32) * e2x + load<f32>(m, 36) * e2y + load<f32>(m, 40) * e2z;
  let nx = a1y * a2z - a1z * a2y, ny = a1z * a2x - a1x * a2z, nz = a1x * a2y - a1y * a2x;
  const size = sqrt<f32>(nx * nx + ny * ny + nz * nz);
  if (!(size > 1e-20) || !(span > 0)) return false;
  nx /= size;
  ny /= size;
  nz /= size;
  // Chosen by area in the part's own space; the world area of this triangle over its chance is what the density needs.
  return towardsSurface(
    px, py, pz,
    load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12),
    load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28),
    load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44),
    nx, ny, nz, (<f32>0.5 * size) / span, chance,
  );
}

/** Density with which `samplePart` would have met a hit on a part, for a unit scale: distance² over cosine and whole area. */
export function surfacePdf(distance: f32, cosine: f32, area: f32, chance: f32): f32 {
  return (chance * distance * distance) / max<f32>(1e-12, cosine * area);
}

/** Nearest panel or bulb along a ray before `nearest`; its number, or -1. The distance goes to `lampT`. */
export let lampT: f32 = 0;
export function hitLamps(scene: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, nearest: f32, fromCamera: bool): i32 {
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  let found = -1;
  lampT = nearest;
  for (let k: u32 = 0; k < count; k++) {
    const light = lights + <usize>k * LIGHT_SIZE;
    const kind = load<i32>(light, LIGHT_KIND);
    if (kind > KIND_BULB || (fromCamera && !load<u32>(light, LIGHT_CAMERA))) continue;
    const px = load<f32>(light, LIGHT_POSITION) - ox, py = load<f32>(light, LIGHT_POSITION + 4) - oy, pz = load<f32>(light, LIGHT_POSITION + 8) - oz;
    if (kind == KIND_PANEL) {
      const nx = load<f32>(light, LIGHT_NORMAL), ny = load<f32>(light, LIGHT_NORMAL + 4), nz = load<f32>(light, LIGHT_NORMAL + 8);
      const cosine = dx * nx + dy * ny + dz * nz;
      if (cosine > -1e-6) continue;
      const t = (px * nx + py * ny + pz * nz) / cosine;
      if (!(t > 1e-4 && t < lampT)) continue;
      const hx = t * dx - px, hy = t * dy - py, hz = t * dz - pz;
      const ax = load<f32>(light, LIGHT_X), ay = load<f32>(light, LIGHT_X + 4), az = load<f32>(light, LIGHT_X + 8);
      const bx = load<f32>(light, LIGHT_Y), by = load<f32>(light, LIGHT_Y + 4), bz = load<f32>(light, LIGHT_Y + 8);
      if (abs(hx * ax + hy * ay + hz * az) > ax * ax + ay * ay + az * az) continue;
      if (abs(hx * bx + hy * by + hz * bz) > bx * bx + by * by + bz * bz) continue;
      lampT = t;
      found = <i32>k;
    } else {
      const radius = load<f32>(light, LIGHT_RADIUS);
      const along = px * dx + py * dy + pz * dz;
      const cx = px - along * dx, cy = py - along * dy, cz = pz - along * dz;
      const h2 = radius * radius - (cx * cx + cy * cy + cz * cz);
      if (h2 <= 0) continue;
      const t = along - sqrt<f32>(h2);
      if (!(t > 1e-4 && t < lampT)) continue;
      lampT = t;
      found = <i32>k;
    }
  }
  return found;
}

/** Radiance of a panel or bulb into lightR, G, B, and the density of `sampleLight` for the hit. */
export function lampHit(scene: usize, index: i32, px: f32, py: f32, pz: f32, dx: f32, dy: f32, dz: f32, distance: f32, total: f32): void {
  const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>index * LIGHT_SIZE;
  lightR = load<f32>(light, LIGHT_EMISSION);
  lightG = load<f32>(light, LIGHT_EMISSION + 4);
  lightB = load<f32>(light, LIGHT_EMISSION + 8);
  const chance = chanceOf(scene, index, px, py, pz, total);
  if (load<i32>(light, LIGHT_KIND) == KIND_PANEL) {
    const cosine = -(dx * load<f32>(light, LIGHT_NORMAL) + dy * load<f32>(light, LIGHT_NORMAL + 4) + dz * load<f32>(light, LIGHT_NORMAL + 8));
    lightPdf = surfacePdf(distance, cosine, load<f32>(light, LIGHT_AREA), chance);
  } else {
    const x = load<f32>(light, LIGHT_POSITION) - px, y = load<f32>(light, LIGHT_POSITION + 4) - py, z = load<f32>(light, LIGHT_POSITION + 8) - pz;
    lightPdf = chance / (TWO * PI * max<f32>(1e-12, bulbSpread(load<f32>(light, LIGHT_RADIUS), x * x + y * y + z * z)));
  }
}

// ---------------------------------------------------------------------------------------------------------- surroundings

function skyTexel(sky: usize, x: i32, y: i32): usize {
  const width = load<i32>(sky, SKY_WIDTH);
  const height = load<i32>(sky, SKY_HEIGHT);
  const cx = x < 0 ? x + width : x >= width ? x - width : x;
  const cy = max<i32>(0, min<i32>(height - 1, y));
  return <usize>load<u32>(sky, SKY_PIXELS) + (<usize>(cy * width + cx) * 12);
}

/** Radiance from a direction, blended between pixels. */
export function skyRadiance(scene: usize, dx: f32, dy: f32, dz: f32): void {
  const sky = <usize>load<u32>(scene, SCENE_SKY);
  const width = <f32>load<i32>(sky, SKY_WIDTH), height = <f32>load<i32>(sky, SKY_HEIGHT);
  let u = (Mathf.atan2(dx, dz) - load<f32>(scene, SCENE_SKY_TURN)) / (TWO * PI) + <f32>0.5;
  u -= floor(u);
  const v = Mathf.acos(max<f32>(-1, min<f32>(1, dy))) / PI;
  const x = u * width - 0.5, y = v * height - 0.5;
  const fx0 = floor(x), fy0 = floor(y);
  const ix = <i32>fx0, iy = <i32>fy0;
  const fx = x - fx0, fy = y - fy0;
  const a = skyTexel(sky, ix, iy), b = skyTexel(sky, ix + 1, iy), c = skyTexel(sky, ix, iy + 1), d = skyTexel(sky, ix + 1, iy + 1);
  const wa = (ONE - fx) * (ONE - fy), wb = fx * (ONE - fy), wc = (ONE - fx) * fy, wd = fx * fy;
  const k = load<f32>(scene, SCENE_SKY_BRIGHTNESS);
  skyR = k * (wa * load<f32>(a) + wb * load<f32>(b) + wc * load<f32>(c) + wd * load<f32>(d));
  skyG = k * (wa * load<f32>(a, 4) + wb * load<f32>(b, 4) + wc * load<f32>(c, 4) + wd * load<f32>(d, 4));
  skyB = k * (wa * load<f32>(a, 8) + wb * load<f32>(b, 8) + wc * load<f32>(c, 8) + wd * load<f32>(d, 8));
}

/** Largest entry not above `u` in a rising table of `count` + 1 entries from 0 to 1. */
function findStep(table: usize, count: i32, u: f32): i32 {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (load<f32>(table + (<usize>middle << 2)) <= u) low = middle;
    else high = middle - 1;
  }
  return low;
}

function sampleSky(scene: usize, u1: f32, u2: f32, chance: f32): bool {
  const sky = <usize>load<u32>(scene, SCENE_SKY);
  const width = load<i32>(sky, SKY_WIDTH), height = load<i32>(sky, SKY_HEIGHT);
  const rows = <usize>load<u32>(sky, SKY_ROWS);
  const y = findStep(rows, height, u1);
  const r0 = load<f32>(rows + (<usize>y << 2)), r1 = load<f32>(rows + (<usize>y << 2), 4);
  const columns = <usize>load<u32>(sky, SKY_COLUMNS) + <usize>(y * (width + 1)) * 4;
  const x = findStep(columns, width, u2);
  const c0 = load<f32>(columns + (<usize>x << 2)), c1 = load<f32>(columns + (<usize>x << 2), 4);
  if (!(r1 > r0 && c1 > c0)) return false;
  const v = (<f32>y + (u1 - r0) / (r1 - r0)) / <f32>height;
  const u = (<f32>x + (u2 - c0) / (c1 - c0)) / <f32>width;
  const theta = v * PI;
  const sine = Mathf.sin(theta);
  if (sine < 1e-6) return false;
  const phi = (u - <f32>0.5) * TWO * PI + load<f32>(scene, SCENE_SKY_TURN);
  lightX = sine * Mathf.sin(phi);
  lightY = Mathf.cos(theta);
  lightZ = sine * Mathf.cos(phi);
  lightDistance = 1e20;
  lightPdf = (chance * (r1 - r0) * (c1 - c0) * <f32>(width * height)) / (TWO * PI * PI * sine);
  skyRadiance(scene, lightX, lightY, lightZ);
  lightR = skyR;
  lightG = skyG;
  lightB = skyB;
  return lightPdf > 0;
}

/** Density of `sampleSky` for a direction, without the choice of the light. */
export function skyPdf(scene: usize, dx: f32, dy: f32, dz: f32): f32 {
  const sky = <usize>load<u32>(scene, SCENE_SKY);
  const width = load<i32>(sky, SKY_WIDTH), height = load<i32>(sky, SKY_HEIGHT);
  let u = (Mathf.atan2(dx, dz) - load<f32>(scene, SCENE_SKY_TURN)) / (TWO * PI) + <f32>0.5;
  u -= floor(u);
  const v = Mathf.acos(max<f32>(-1, min<f32>(1, dy))) / PI;
  const x = min<i32>(width - 1, <i32>(u * <f32>width)), y = min<i32>(height - 1, <i32>(v * <f32>height));
  const rows = <usize>load<u32>(sky, SKY_ROWS) + (<usize>y << 2);
  const columns = <usize>load<u32>(sky, SKY_COLUMNS) + <usize>(y * (width + 1) + x) * 4;
  const sine = sqrt<f32>(max<f32>(1e-12, ONE - dy * dy));
  return ((load<f32>(rows, 4) - load<f32>(rows)) * (load<f32>(columns, 4) - load<f32>(columns)) * <f32>(width * height)) / (TWO * PI * PI * sine);
}

function luminance(texel: usize): f32 {
  return <f32>0.2126 * load<f32>(texel) + <f32>0.7152 * load<f32>(texel, 4) + <f32>0.0722 * load<f32>(texel, 8);
}

/**
 * Fills the tables of surroundings. A pixel's share is the mean luminance of its neighbourhood, so that blended pixels beside
 * a bright one are chosen too.
 */
export function prepareSky(sky: usize): void {
  const width = load<i32>(sky, SKY_WIDTH), height = load<i32>(sky, SKY_HEIGHT);
  const rows = <usize>load<u32>(sky, SKY_ROWS), columns = <usize>load<u32>(sky, SKY_COLUMNS);
  let total: f64 = 0;
  let solid: f64 = 0;
  let light: f64 = 0;
  store<f32>(rows, 0);
  for (let y = 0; y < height; y++) {
    const sine = Mathf.sin((PI * (<f32>y + 0.5)) / <f32>height);
    const row = columns + <usize>(y * (width + 1)) * 4;
    let sum: f64 = 0;
    store<f32>(row, 0);
    for (let x = 0; x < width; x++) {
      let l: f32 = 0;
      for (let j = -1; j <= 1; j++) for (let i = -1; i <= 1; i++) l += luminance(skyTexel(sky, x + i, y + j));
      sum += <f64>(l / 9) + 1e-9;
      store<f32>(row + (<usize>(x + 1) << 2), <f32>sum);
      light += <f64>(luminance(skyTexel(sky, x, y)) * sine);
      solid += <f64>sine;
    }
    for (let x = 1; x <= width; x++) {
      const cell = row + (<usize>x << 2);
      store<f32>(cell, x == width ? 1 : <f32>(<f64>load<f32>(cell) / sum));
    }
    total += sum * <f64>sine;
    store<f32>(rows + (<usize>(y + 1) << 2), <f32>total);
  }
  for (let y = 1; y <= height; y++) {
    const cell = rows + (<usize>y << 2);
    store<f32>(cell, y == height ? 1 : <f32>(<f64>load<f32>(cell) / total));
  }
  store<f32>(sky, <f32>total, SKY_WEIGHT);
  store<f32>(sky, <f32>(light / solid), SKY_MEAN);
}

// ------------------------------------------------------------------------------------------------------------------ basis

export let basisXx: f32 = 0;
export let basisXy: f32 = 0;
export let basisXz: f32 = 0;
export let basisYx: f32 = 0;
export let basisYy: f32 = 0;
export let basisYz: f32 = 0;

/** Two unit vectors across a unit vector (Duff et al., Building an Orthonormal Basis, Revisited, 2017). */
export function makeBasis(x: f32, y: f32, z: f32): void {
  const sign: f32 = z >= 0 ? 1 : -1;
  const a = <f32>-1 / (sign + z);
  const b = x * y * a;
  basisXx = ONE + sign * x * x * a;
  basisXy = sign * b;
  basisXz = -sign * x;
  basisYx = b;
  basisYy = sign + y * y * a;
  basisYz = -y;
}
