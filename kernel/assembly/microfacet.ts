// Microfacets: GGX with height-correlated Smith shadowing (Heitz, Understanding the Masking-Shadowing Function in
// Microfacet-Based BRDFs, 2014), sampled by visible normals (Heitz, Sampling the GGX Distribution of Visible Normals, 2018).
// Directions point away from the surface, z is its normal, x the direction along which `ax` is measured.

import { turn, turnCosine, turnSine } from './angle';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;

/** Result of `sampleVisibleNormal`. */
export let facetX: f32 = 0;
export let facetY: f32 = 0;
export let facetZ: f32 = 0;
/** Density of `reflectLobe`'s direction when its normal is sampled by `sampleVisibleNormal`. */
export let lobePdf: f32 = 0;

/** Every lobe but that of smooth glass has some width. */
export const LEAST_ALPHA: f32 = 0.002;

/** Widths along x and y of a lobe whose narrow side is `aspect` of its wide one. */
export function wideAlpha(alpha: f32, aspect: f32): f32 {
  return aspect < 1 ? alpha * sqrt<f32>(<f32>2 / (ONE + aspect * aspect)) : alpha;
}

export function narrowAlpha(alpha: f32, aspect: f32): f32 {
  return aspect < 1 ? max<f32>(LEAST_ALPHA, wideAlpha(alpha, aspect) * aspect) : alpha;
}

export function distribution(x: f32, y: f32, z: f32, ax: f32, ay: f32): f32 {
  const a = x / ax,
    b = y / ay;
  const d = a * a + b * b + z * z;
  return ONE / (PI * ax * ay * d * d);
}

export function smithLambda(x: f32, y: f32, z: f32, ax: f32, ay: f32): f32 {
  const a = ax * x,
    b = ay * y;
  return (sqrt<f32>(ONE + (a * a + b * b) / max<f32>(z * z, 1e-12)) - 1) * 0.5;
}

/** A microfacet normal visible from (x, y, z), z > 0. */
export function sampleVisibleNormal(x: f32, y: f32, z: f32, ax: f32, ay: f32, u1: f32, u2: f32): void {
  let vx = ax * x,
    vy = ay * y,
    vz = z;
  const inv = ONE / sqrt<f32>(vx * vx + vy * vy + vz * vz);
  vx *= inv;
  vy *= inv;
  vz *= inv;
  const flat = vx * vx + vy * vy;
  let t1x: f32 = 1,
    t1y: f32 = 0;
  if (flat > 1e-12) {
    const s = ONE / sqrt<f32>(flat);
    t1x = -vy * s;
    t1y = vx * s;
  }
  const t2x = -vz * t1y,
    t2y = vz * t1x,
    t2z = vx * t1y - vy * t1x;
  const r = sqrt<f32>(u1);
  turn(u2);
  const p1 = r * turnCosine;
  let p2 = r * turnSine;
  const s: f32 = <f32>0.5 * (ONE + vz);
  p2 = (ONE - s) * sqrt<f32>(max<f32>(0, ONE - p1 * p1)) + s * p2;
  const p3 = sqrt<f32>(max<f32>(0, ONE - p1 * p1 - p2 * p2));
  const nx = ax * (p1 * t1x + p2 * t2x + p3 * vx);
  const ny = ay * (p1 * t1y + p2 * t2y + p3 * vy);
  const nz = max<f32>(1e-6, p2 * t2z + p3 * vz);
  const n = ONE / sqrt<f32>(nx * nx + ny * ny + nz * nz);
  facetX = nx * n;
  facetY = ny * n;
  facetZ = nz * n;
}

/**
 * Reflection without Fresnel from a side whose `smithLambda` is `lo` to the side `i`, whose half vector is `h`: function × cosine of
 * `i`; its density goes to `lobePdf`.
 */
export function reflectLobe(
  oz: f32,
  lo: f32,
  ix: f32,
  iy: f32,
  iz: f32,
  hx: f32,
  hy: f32,
  hz: f32,
  ax: f32,
  ay: f32,
): f32 {
  const d = distribution(hx, hy, hz, ax, ay) / (4 * oz);
  const li = smithLambda(ix, iy, iz, ax, ay);
  lobePdf = d / (ONE + lo);
  return d / (ONE + lo + li);
}
