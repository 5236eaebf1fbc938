// One path from the camera: next-event estimation at every vertex, combined with hits of lights by the balance heuristic
// (Veach, Robust Monte Carlo Methods for Light Transport Simulation, 1997).

import {
  evaluateFinish,
  finishIsSmoothGlass,
  openFinish,
  sampleFinish,
  samplePassed,
  samplePdf,
  sampleTransmitted,
  sampleX,
  sampleY,
  sampleZ,
  scatterB,
  scatterG,
  scatterPdf,
  scatterR,
  straightThrough,
  weightB,
  weightG,
  weightR,
} from './finish';
import {
  BEHIND_COLOR,
  BEHIND_TRANSPARENT,
  FINISH_ABSORPTION,
  FINISH_BASE,
  FINISH_SIZE,
  FINISH_THIN,
  FINISH_TRANSMISSION,
  INSTANCE_EMISSION,
  INSTANCE_FINISH,
  INSTANCE_LIGHT,
  INSTANCE_PART,
  SCENE_BEHIND,
  SCENE_BEHIND_COLOR,
  SCENE_CAMERA_FORWARD,
  SCENE_CAMERA_POSITION,
  SCENE_CAMERA_RIGHT,
  SCENE_CAMERA_UP,
  SCENE_DEPTH,
  SCENE_FINISHES,
  SCENE_FOCUS,
  SCENE_HEIGHT,
  SCENE_LENS_RADIUS,
  SCENE_LIGHT_COUNT,
  SCENE_SPECK,
  SCENE_TAN_X,
  SCENE_TAN_Y,
  SCENE_WIDTH,
} from './layout';
import {
  basisXx,
  basisXy,
  basisXz,
  basisYx,
  basisYy,
  basisYz,
  chanceOf,
  hitLamps,
  lampHit,
  lampT,
  lightB,
  lightDistance,
  lightG,
  lightPdf,
  lightR,
  lightX,
  lightY,
  lightZ,
  makeBasis,
  sampleLight,
  skyB,
  skyG,
  skyPdf,
  skyR,
  skyRadiance,
  surfacePdf,
  totalWeight,
} from './light';
import { draw1, draw2, drawX, drawY } from './sampler';
import {
  flatX,
  flatY,
  flatZ,
  openSurface,
  smoothX,
  smoothY,
  smoothZ,
  surfaceArea,
  surfaceInstance,
  surfaceX,
  surfaceY,
  surfaceZ,
} from './surface';
import { hitInstance, hitT, trace } from './traverse';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;
const FAR: f32 = 1e20;
/** Walls of thin glass a ray may pass on top of its bounces. */
const MOST_PASSES = 24;

/** Result of `tracePath`. */
export let pathR: f32 = 0;
export let pathG: f32 = 0;
export let pathB: f32 = 0;
export let pathAlpha: f32 = 0;
export let pathDepth: f32 = 0;
export let pathNormalX: f32 = 0;
export let pathNormalY: f32 = 0;
export let pathNormalZ: f32 = 0;
export let pathAlbedoR: f32 = 0;
export let pathAlbedoG: f32 = 0;
export let pathAlbedoB: f32 = 0;
export let pathPart: u32 = 0;

export let originX: f32 = 0;
export let originY: f32 = 0;
export let originZ: f32 = 0;
export let directionX: f32 = 0;
export let directionY: f32 = 0;
export let directionZ: f32 = 0;

let throughR: f32 = 1;
let throughG: f32 = 1;
let throughB: f32 = 1;
let limit: f32 = 0;

function add(r: f32, g: f32, b: f32): void {
  let x = throughR * r, y = throughG * g, z = throughB * b;
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
}

/** A tent of one pixel's half width, from a uniform number. */
function tent(u: f32): f32 {
  return u < 0.5 ? sqrt<f32>(TWO * u) - 1 : ONE - sqrt<f32>(TWO - TWO * u);
}

/** Starts a ray through a pixel and a point of the lens (Cook, Porter and Carpenter, Distributed Ray Tracing, 1984). */
export function startRay(scene: usize, px: i32, py: i32): void {
  draw2();
  const sx = (TWO * (<f32>px + <f32>0.5 + tent(drawX))) / <f32>load<i32>(scene, SCENE_WIDTH) - 1;
  const sy = ONE - (TWO * (<f32>py + <f32>0.5 + tent(drawY))) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const fx = sx * load<f32>(scene, SCENE_TAN_X), fy = sy * load<f32>(scene, SCENE_TAN_Y);
  draw2();
  const radius = load<f32>(scene, SCENE_LENS_RADIUS);
  const r = radius * sqrt<f32>(drawX);
  const phi = TWO * PI * drawY;
  const lx: f32 = radius > 0 ? r * Mathf.cos(phi) : 0, ly: f32 = radius > 0 ? r * Mathf.sin(phi) : 0;
  const focus = load<f32>(scene, SCENE_FOCUS);
  const dx = fx * focus - lx, dy = fy * focus - ly;
  const right = scene + SCENE_CAMERA_RIGHT, up = scene + SCENE_CAMERA_UP, forward = scene + SCENE_CAMERA_FORWARD;
  originX = load<f32>(scene, SCENE_CAMERA_POSITION) + lx * load<f32>(right) + ly * load<f32>(up);
  originY = load<f32>(scene, SCENE_CAMERA_POSITION + 4) + lx * load<f32>(right, 4) + ly * load<f32>(up, 4);
  originZ = load<f32>(scene, SCENE_CAMERA_POSITION + 8) + lx * load<f32>(right, 8) + ly * load<f32>(up, 8);
  const x = dx * load<f32>(right) + dy * load<f32>(up) + focus * load<f32>(forward);
  const y = dx * load<f32>(right, 4) + dy * load<f32>(up, 4) + focus * load<f32>(forward, 4);
  const z = dx * load<f32>(right, 8) + dy * load<f32>(up, 8) + focus * load<f32>(forward, 8);
  const inv = <f32>1 / sqrt<f32>(x * x + y * y + z * z);
  directionX = x * inv;
  directionY = y * inv;
  directionZ = z * inv;
}

/** Follows the ray set in origin and direction. */
export function tracePath(scene: usize): void {
  pathR = 0;
  pathG = 0;
  pathB = 0;
  pathAlpha = 0;
  pathDepth = 0;
  pathNormalX = 0;
  pathNormalY = 0;
  pathNormalZ = 0;
  pathAlbedoR = 0;
  pathAlbedoG = 0;
  pathAlbedoB = 0;
  pathPart = 0;
  throughR = 1;
  throughG = 1;
  throughB = 1;
  limit = 0;
  const finishes = <usize>load<u32>(scene, SCENE_FINISHES);
  const most = load<i32>(scene, SCENE_DEPTH);
  const skyLight = load<i32>(scene, SCENE_LIGHT_COUNT) - 1;
  let ox = originX, oy = originY, oz = originZ;
  let dx = directionX, dy = directionY, dz = directionZ;
  let absorbR: f32 = 0, absorbG: f32 = 0, absorbB: f32 = 0;
  // The last vertex that scattered: its place, how lights were chosen there, and the density of the ray; 0 for camera and mirrors.
  let vx = ox, vy = oy, vz = oz, vTotal: f32 = 0, vPdf: f32 = 0, travelled: f32 = 0;
  let straight = true;
  let bounces = 0;
  let passes = 0;
  let first = true;
  for (;;) {
    const hit = trace(scene, ox, oy, oz, dx, dy, dz, 0, FAR, false);
    const lamp = hitLamps(scene, ox, oy, oz, dx, dy, dz, hitT, straight);
    const distance: f32 = lamp >= 0 ? lampT : hitT;
    if (absorbR + absorbG + absorbB > 0 && (hit || lamp >= 0)) {
      throughR *= Mathf.exp(-absorbR * distance);
      throughG *= Mathf.exp(-absorbG * distance);
      throughB *= Mathf.exp(-absorbB * distance);
    }
    if (lamp >= 0) {
      lampHit(scene, lamp, vx, vy, vz, dx, dy, dz, travelled + distance, vTotal);
      const w: f32 = vPdf > 0 ? vPdf / (vPdf + lightPdf) : 1;
      add(lightR * w, lightG * w, lightB * w);
      if (straight) pathAlpha = 1;
      return;
    }
    if (!hit) {
      const behind = load<u32>(scene, SCENE_BEHIND);
      if (straight && behind == BEHIND_TRANSPARENT) return;
      if (straight) pathAlpha = 1;
      if (straight && behind == BEHIND_COLOR) {
        add(load<f32>(scene, SCENE_BEHIND_COLOR), load<f32>(scene, SCENE_BEHIND_COLOR + 4), load<f32>(scene, SCENE_BEHIND_COLOR + 8));
        return;
      }
      skyRadiance(scene, dx, dy, dz);
      const pdf = vPdf > 0 ? chanceOf(scene, skyLight, vx, vy, vz, vTotal) * skyPdf(scene, dx, dy, dz) : <f32>0;
      const w: f32 = vPdf > 0 ? vPdf / (vPdf + pdf) : 1;
      add(skyR * w, skyG * w, skyB * w);
      return;
    }
    openSurface(scene);
    const instance = surfaceInstance(scene);
    const facing = dx * flatX + dy * flatY + dz * flatZ;
    const inside = facing > 0;
    const er = load<f32>(instance, INSTANCE_EMISSION), eg = load<f32>(instance, INSTANCE_EMISSION + 4), eb = load<f32>(instance, INSTANCE_EMISSION + 8);
    if (!inside && er + eg + eb > 0) {
      let w: f32 = 1;
      if (vPdf > 0) {
        const chance = chanceOf(scene, load<i32>(instance, INSTANCE_LIGHT), vx, vy, vz, vTotal);
        w = vPdf / (vPdf + surfacePdf(travelled + distance, -facing, surfaceArea, chance));
      }
      add(er * w, eg * w, eb * w);
    }
    const finish = finishes + <usize>load<u32>(instance, INSTANCE_FINISH) * FINISH_SIZE;
    const flip: f32 = inside ? -1 : 1;
    const gx = flatX * flip, gy = flatY * flip, gz = flatZ * flip;
    let nx = smoothX * flip, ny = smoothY * flip, nz = smoothZ * flip;
    if (-(nx * dx + ny * dy + nz * dz) < 0.01) {
      // Seen from behind its own blended normal: near a silhouette the flat one is the truth.
      nx = gx;
      ny = gy;
      nz = gz;
    }
    const px = surfaceX, py = surfaceY, pz = surfaceZ;
    if (first) {
      first = false;
      pathDepth = distance;
      pathNormalX = nx;
      pathNormalY = ny;
      pathNormalZ = nz;
      const clear = load<f32>(finish, FINISH_TRANSMISSION);
      pathAlbedoR = load<f32>(finish, FINISH_BASE) * (ONE - clear) + clear;
      pathAlbedoG = load<f32>(finish, FINISH_BASE + 4) * (ONE - clear) + clear;
      pathAlbedoB = load<f32>(finish, FINISH_BASE + 8) * (ONE - clear) + clear;
      pathPart = load<u32>(instance, INSTANCE_PART);
      pathAlpha = 1;
    }
    if (bounces >= most) return;
    makeBasis(nx, ny, nz);
    const ax = basisXx, ay = basisXy, az = basisXz, bx = basisYx, by = basisYy, bz = basisYz;
    openFinish(finish, -(dx * ax + dy * ay + dz * az), -(dx * bx + dy * by + dz * bz), -(dx * nx + dy * ny + dz * nz), inside);
    const scale = max(abs(px), max(abs(py), abs(pz)));
    const eps: f32 = <f32>5e-4 + scale * 1.5e-6;
    let total: f32 = 0;
    const smoothGlass = finishIsSmoothGlass();
    if (!smoothGlass) {
      if (bounces > 0) limit = load<f32>(scene, SCENE_SPECK);
      total = totalWeight(scene, px, py, pz);
      if (sampleLight(scene, px, py, pz, total)) {
        const lx = lightX, ly = lightY, lz = lightZ;
        const iz = lx * nx + ly * ny + lz * nz;
        const side = lx * gx + ly * gy + lz * gz;
        if (iz * side > 0) {
          evaluateFinish(lx * ax + ly * ay + lz * az, lx * bx + ly * by + lz * bz, iz);
          if (scatterPdf > 0 && scatterR + scatterG + scatterB > 0) {
            const w = (<f32>1 / lightPdf) * (lightPdf / (lightPdf + scatterPdf));
            const s: f32 = side > 0 ? eps : -eps;
            const lr = lightR * scatterR * w, lg = lightG * scatterG * w, lb = lightB * scatterB * w;
            const reach: f32 = lightDistance > 1e19 ? FAR : lightDistance - 3 * eps;
            if (reach > 0 && lightReaches(scene, finishes, px + gx * s, py + gy * s, pz + gz * s, lx, ly, lz, reach)) {
              add(lr * reachR, lg * reachG, lb * reachB);
            }
          }
        }
      }
    }
    const choice = draw1();
    draw2();
    if (!sampleFinish(choice, drawX, drawY)) return;
    const x = sampleX * ax + sampleY * bx + sampleZ * nx;
    const y = sampleX * ay + sampleY * by + sampleZ * ny;
    const z = sampleX * az + sampleY * bz + sampleZ * nz;
    const side = x * gx + y * gy + z * gz;
    if (sampleTransmitted ? side >= 0 : side <= 0) return;
    throughR *= weightR;
    throughG *= weightG;
    throughB *= weightB;
    const s: f32 = sampleTransmitted ? -eps : eps;
    ox = px + gx * s;
    oy = py + gy * s;
    oz = pz + gz * s;
    if (samplePassed) {
      if (++passes > MOST_PASSES) return;
      travelled += distance;
      continue;
    }
    dx = x;
    dy = y;
    dz = z;
    straight = false;
    vx = px;
    vy = py;
    vz = pz;
    vTotal = total;
    // A perfect mirror or lens cannot be met by light sampling; neither can a rough lobe where none was done.
    vPdf = smoothGlass ? 0 : samplePdf;
    travelled = 0;
    if (sampleTransmitted && load<f32>(finish, FINISH_THIN) <= 0) {
      absorbR = inside ? 0 : load<f32>(finish, FINISH_ABSORPTION);
      absorbG = inside ? 0 : load<f32>(finish, FINISH_ABSORPTION + 4);
      absorbB = inside ? 0 : load<f32>(finish, FINISH_ABSORPTION + 8);
    }
    bounces++;
    if (bounces > 3) {
      const live = min<f32>(0.95, max(throughR, max(throughG, throughB)));
      if (draw1() >= live || !(live > 0)) return;
      const inv = <f32>1 / live;
      throughR *= inv;
      throughG *= inv;
      throughB *= inv;
    }
  }
}

let reachR: f32 = 1;
let reachG: f32 = 1;
let reachB: f32 = 1;

/** Whether light comes through from a distance, and how much thin clear walls on the way let pass. */
function lightReaches(scene: usize, finishes: usize, x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, reach: f32): bool {
  reachR = 1;
  reachG = 1;
  reachB = 1;
  if (!trace(scene, x, y, z, dx, dy, dz, 0, reach, true)) return true;
  let from: f32 = 0;
  for (let wall = 0; wall < MOST_PASSES; wall++) {
    const finish = finishes + <usize>load<u32>(surfaceInstance(scene), INSTANCE_FINISH) * FINISH_SIZE;
    if (load<f32>(finish, FINISH_THIN) <= 0) return false;
    if (!trace(scene, x, y, z, dx, dy, dz, from, reach, false)) return true;
    const at = hitT;
    const nearest = finishes + <usize>load<u32>(surfaceInstance(scene), INSTANCE_FINISH) * FINISH_SIZE;
    openSurface(scene);
    const cosine = abs(dx * smoothX + dy * smoothY + dz * smoothZ);
    reachR *= straightThrough(nearest, cosine, 0);
    reachG *= straightThrough(nearest, cosine, 4);
    reachB *= straightThrough(nearest, cosine, 8);
    if (!(reachR + reachG + reachB > 1e-6)) return false;
    from = at + <f32>1e-3 + at * 2e-6;
    if (from >= reach || !trace(scene, x, y, z, dx, dy, dz, from, reach, true)) return true;
  }
  return false;
}
