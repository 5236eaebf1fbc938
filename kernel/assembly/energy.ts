// Directional albedo of the lobes, tabulated once for all finishes: what a layer leaves to the one below, and what single
// scattering between microfacets loses.

import {
  ENERGY_FUZZ,
  ENERGY_GLASS,
  ENERGY_GLASS_INSIDE,
  ENERGY_METAL,
  ENERGY_METAL_MEAN,
  ENERGY_OUTER,
  ENERGY_OUTER_MEAN,
  ENERGY_SRGB,
  ENERGY_STEPS,
} from './layout';
import { fresnelDielectric } from './fresnel';
import { facetX, facetY, facetZ, sampleVisibleNormal, smithLambda } from './microfacet';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;
const ROW: usize = <usize>ENERGY_STEPS * 4;
const SLICE: usize = ROW * <usize>ENERGY_STEPS;
/** Root of the largest reflectance at normal incidence in the tables: that of index 4. */
const MOST_ROOT: f32 = 0.6;
const LEAST_COSINE: f32 = 0.01;

let tables: usize = 0;

export function useEnergyTables(at: usize): void {
  if (at === tables) return;
  tables = at;
  memory.fill(known, 0, KNOWN_COUNT * KNOWN_SIZE);
}

let low: usize = 0;
let part: f32 = 0;
function step(value: f32): void {
  const x = max<f32>(0, min<f32>(value, 1)) * <f32>(ENERGY_STEPS - 1);
  const k = min<i32>(<i32>x, ENERGY_STEPS - 2);
  low = <usize>k;
  part = x - <f32>k;
}

function row(at: usize, fraction: f32): f32 {
  const a = load<f32>(at);
  return a + (load<f32>(at, 4) - a) * fraction;
}

function plane(at: usize, fx: f32, fy: f32): f32 {
  const a = row(at, fx);
  return a + (row(at + ROW, fx) - a) * fy;
}

/** Directional albedo of a perfectly reflecting microsurface. */
export function metalAlbedo(cosine: f32, rootAlpha: f32): f32 {
  step(cosine);
  const x = low,
    fx = part;
  step(rootAlpha);
  return plane(tables + ENERGY_METAL + low * ROW + x * 4, fx, part);
}

export function metalMean(rootAlpha: f32): f32 {
  step(rootAlpha);
  return row(tables + ENERGY_METAL_MEAN + low * 4, part);
}

export function fuzzAlbedo(cosine: f32, roughness: f32): f32 {
  step(cosine);
  const x = low,
    fx = part;
  step(roughness);
  return plane(tables + ENERGY_FUZZ + low * ROW + x * 4, fx, part);
}

// Where a roughness and an index stand in a table of three axes: the rows of all cosines there.
let openRows: usize = 0;
let openY: f32 = 0;
let openZ: f32 = 0;
function openCube(table: usize, rootAlpha: f32, eta: f32): void {
  step(rootAlpha);
  const y = low;
  openY = part;
  step(abs((eta - 1) / (eta + 1)) / MOST_ROOT);
  openZ = part;
  openRows = tables + table + low * SLICE + y * ROW;
}

function alongRows(rows: usize, fy: f32, fz: f32, cosine: f32): f32 {
  step(cosine);
  const at = rows + low * 4,
    fx = part;
  const a = plane(at, fx, fy);
  return a + (plane(at + SLICE, fx, fy) - a) * fz;
}

/** What the outer side of a clear rough surface of relative index `eta` > 1 reflects. */
export function outerAlbedo(cosine: f32, rootAlpha: f32, eta: f32): f32 {
  openCube(ENERGY_OUTER, rootAlpha, eta);
  return alongRows(openRows, openY, openZ, cosine);
}

let outerRows: usize = 0;
let outerY: f32 = 0;
let outerZ: f32 = 0;
/** Cosine-weighted mean of `outerAlbedo` of the surface opened last. */
export let outerMeanThere: f32 = 0;

// Surfaces that were opened before, by a hash of the two numbers: 0 root of alpha   4 index   8 rows*   12 y   16 z   20 mean
const KNOWN_SIZE: usize = 24;
const KNOWN_COUNT: usize = 64;
const KNOWN_SHIFT: u32 = 26;
let known: usize = 0;

/** Gives this worker room for 64 surfaces: 1536 bytes. */
export function setEnergyScratch(at: usize): void {
  known = at;
}

/** Chooses the surface for the calls of `outerAlbedoThere` that follow, and tells `outerMeanThere`. */
export function openOuter(rootAlpha: f32, eta: f32): void {
  const hash: u32 = (reinterpret<u32>(rootAlpha) * 0x9e3779b9) ^ (reinterpret<u32>(eta) * 0x85ebca6b);
  const entry = known + <usize>(hash >> KNOWN_SHIFT) * KNOWN_SIZE;
  if (load<f32>(entry) !== rootAlpha || load<f32>(entry, 4) !== eta) {
    openCube(ENERGY_OUTER, rootAlpha, eta);
    store<f32>(entry, rootAlpha);
    store<f32>(entry, eta, 4);
    store<u32>(entry, <u32>openRows, 8);
    store<f32>(entry, openY, 12);
    store<f32>(entry, openZ, 16);
    store<f32>(entry, outerMean(rootAlpha, eta), 20);
  }
  outerRows = <usize>load<u32>(entry, 8);
  outerY = load<f32>(entry, 12);
  outerZ = load<f32>(entry, 16);
  outerMeanThere = load<f32>(entry, 20);
}

/** `outerAlbedo` of the surface opened last. */
export function outerAlbedoThere(cosine: f32): f32 {
  return alongRows(outerRows, outerY, outerZ, cosine);
}

export function outerMean(rootAlpha: f32, eta: f32): f32 {
  step(rootAlpha);
  const y = low,
    fy = part;
  step(abs((eta - 1) / (eta + 1)) / MOST_ROOT);
  return plane(tables + ENERGY_OUTER_MEAN + low * ROW + y * 4, fy, part);
}

/** What single scattering at a clear rough surface reflects and lets through together. */
export function glassAlbedo(cosine: f32, rootAlpha: f32, eta: f32): f32 {
  openCube(eta >= 1 ? ENERGY_GLASS : ENERGY_GLASS_INSIDE, rootAlpha, eta);
  return alongRows(openRows, openY, openZ, cosine);
}

/** Cloth of fibres that stand on end (Estevez and Kulla, Production Friendly Microfacet Sheen BRDF, 2017). */
export function fuzzDistribution(cosine: f32, roughness: f32): f32 {
  const inverse = ONE / max<f32>(0.07, roughness);
  const sine2 = max<f32>(0, ONE - cosine * cosine);
  return ((TWO + inverse) * Mathf.pow(sine2, inverse * <f32>0.5)) / (TWO * PI);
}

/** Shadowing without correlation to roughness, as Neubelt and Pettineo's cloth has it (Crafting a Next-Gen Material Pipeline, 2013). */
export function fuzzVisibility(ci: f32, co: f32): f32 {
  return ONE / max<f32>(1e-4, <f32>4 * (ci + co - ci * co));
}

/** Linear value of an 8-bit sRGB one (IEC 61966-2-1). */
export function linearFromSrgb8(value: u32): f32 {
  return load<f32>(tables + ENERGY_SRGB + ((<usize>value) << 2));
}

/** Fills the tables at an address: ENERGY_SIZE bytes. Takes about a quarter of a second. */
export function fillEnergyTables(at: usize): void {
  tables = at;
  for (let v = 0; v < 256; v++) {
    const x = <f32>v / <f32>255;
    store<f32>(
      at + ENERGY_SRGB + ((<usize>v) << 2),
      x <= <f32>0.04045 ? x / <f32>12.92 : Mathf.pow((x + <f32>0.055) / <f32>1.055, 2.4),
    );
  }
  for (let a = 0; a < ENERGY_STEPS; a++) {
    const root = <f32>a / <f32>(ENERGY_STEPS - 1);
    const alpha = max<f32>(1e-4, root * root);
    for (let c = 0; c < ENERGY_STEPS; c++) {
      const cosine = max<f32>(LEAST_COSINE, <f32>c / <f32>(ENERGY_STEPS - 1));
      const place = <usize>a * ROW + ((<usize>c) << 2);
      store<f32>(at + ENERGY_METAL + place, integrate(cosine, alpha, 0, false, 512));
      store<f32>(at + ENERGY_FUZZ + place, integrateFuzz(cosine, root));
      for (let f = 0; f < ENERGY_STEPS; f++) {
        const r = min<f32>(0.9999, (MOST_ROOT * <f32>f) / <f32>(ENERGY_STEPS - 1));
        const eta = (ONE + r) / (ONE - r);
        const entry = <usize>f * SLICE + place;
        store<f32>(at + ENERGY_OUTER + entry, f === 0 ? 0 : integrate(cosine, alpha, eta, false, 160));
        store<f32>(at + ENERGY_GLASS + entry, integrate(cosine, alpha, eta, true, 160));
        store<f32>(at + ENERGY_GLASS_INSIDE + entry, integrate(cosine, alpha, ONE / eta, true, 160));
      }
    }
  }
  for (let a = 0; a < ENERGY_STEPS; a++) {
    const root = <f32>a / <f32>(ENERGY_STEPS - 1);
    store<f32>(at + ENERGY_METAL_MEAN + ((<usize>a) << 2), mean(0, root, 0));
    for (let f = 0; f < ENERGY_STEPS; f++) {
      const r = (MOST_ROOT * <f32>f) / <f32>(ENERGY_STEPS - 1);
      store<f32>(at + ENERGY_OUTER_MEAN + <usize>f * ROW + ((<usize>a) << 2), mean(1, root, (ONE + r) / (ONE - r)));
    }
  }
}

/** Cosine-weighted mean over the hemisphere. */
function mean(table: i32, root: f32, eta: f32): f32 {
  let sum: f32 = 0;
  const count = 128;
  for (let k = 0; k < count; k++) {
    const cosine = (<f32>k + 0.5) / <f32>count;
    sum += TWO * cosine * (table === 0 ? metalAlbedo(cosine, root) : outerAlbedo(cosine, root, eta));
  }
  return sum / <f32>count;
}

/** Albedo by visible normals; `eta` 0 reflects all, `through` counts refracted light too. */
function integrate(cosine: f32, alpha: f32, eta: f32, through: bool, count: i32): f32 {
  const x = sqrt<f32>(max<f32>(0, ONE - cosine * cosine));
  const lo = smithLambda(x, 0, cosine, alpha, alpha);
  let sum: f32 = 0;
  for (let k = 0; k < count; k++) {
    const turn = <f32>k * 0.61803398875;
    sampleVisibleNormal(x, 0, cosine, alpha, alpha, (<f32>k + 0.5) / <f32>count, turn - floor(turn));
    const oh = x * facetX + cosine * facetZ;
    const f: f32 = eta > 0 ? fresnelDielectric(oh, eta) : 1;
    const rx = TWO * oh * facetX - x,
      ry = TWO * oh * facetY,
      rz = TWO * oh * facetZ - cosine;
    if (rz > 0) sum += (f * (ONE + lo)) / (ONE + lo + smithLambda(rx, ry, rz, alpha, alpha));
    if (!through) continue;
    const inside = ONE - (ONE - oh * oh) / (eta * eta);
    if (inside <= 0) continue;
    const b = oh / eta - sqrt<f32>(inside);
    const tx = b * facetX - x / eta,
      ty = b * facetY,
      tz = b * facetZ - cosine / eta;
    if (tz < 0) sum += ((ONE - f) * (ONE + lo)) / (ONE + lo + smithLambda(tx, ty, tz, alpha, alpha));
  }
  return sum / <f32>count;
}

function integrateFuzz(cosine: f32, roughness: f32): f32 {
  const x = sqrt<f32>(max<f32>(0, ONE - cosine * cosine));
  const side = 24;
  let sum: f32 = 0;
  for (let i = 0; i < side; i++) {
    const iz = (<f32>i + 0.5) / <f32>side;
    const sine = sqrt<f32>(ONE - iz * iz);
    for (let j = 0; j < side; j++) {
      const phi = (PI * (<f32>j + 0.5)) / <f32>side;
      const hx = x + sine * Mathf.cos(phi),
        hy = sine * Mathf.sin(phi),
        hz = cosine + iz;
      const h = hz / sqrt<f32>(hx * hx + hy * hy + hz * hz);
      sum += fuzzDistribution(h, roughness) * fuzzVisibility(iz, cosine) * iz;
    }
  }
  // Uniform over the hemisphere, whose solid angle is 2π.
  return min<f32>(1, (TWO * PI * sum) / <f32>(side * side));
}
