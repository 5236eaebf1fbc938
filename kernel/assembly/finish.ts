// Scattering at a surface, after the OpenPBR Surface specification 1.1, in a local frame whose z is the shading normal.
// Layers from the top: coat, then a mix of metal, glass and an opaque base (specular over diffuse). What a layer does not
// reflect reaches the one below, by directional albedo.
// Microfacets: GGX with height-correlated Smith shadowing (Heitz, Understanding the Masking-Shadowing Function, 2014), sampled
// by visible normals (Heitz, Sampling the GGX Distribution of Visible Normals, 2018); refraction after Walter et al.,
// Microfacet Models for Refraction through Rough Surfaces, 2007. Metal regains what single scattering loses as in Turquin,
// Practical multiple scattering compensation for microfacet models, 2019.

import {
  FINISH_ALPHA,
  FINISH_BASE,
  FINISH_COAT,
  FINISH_COAT_ALPHA,
  FINISH_COAT_COLOR,
  FINISH_COAT_IOR,
  FINISH_IOR,
  FINISH_METALNESS,
  FINISH_SIZE,
  FINISH_SPECULAR,
  FINISH_TABLE_COAT,
  FINISH_TABLE_DIELECTRIC,
  FINISH_TABLE_METAL,
  FINISH_THIN,
  FINISH_TINT,
  FINISH_TRANSMISSION,
  TABLE_STEPS,
} from './layout';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;
const INV_PI: f32 = 0.31830988618379;
/** Below this a glass surface is treated as perfectly smooth. */
const SMOOTH_ALPHA: f32 = 0.0009;

/** Results of `evaluateFinish`: the scattering function times the cosine, and the density of `sampleFinish`. */
export let scatterR: f32 = 0;
export let scatterG: f32 = 0;
export let scatterB: f32 = 0;
export let scatterPdf: f32 = 0;

/** Results of `sampleFinish`: direction, weight (function × cosine / density), density (0 for a perfect mirror or lens). */
export let sampleX: f32 = 0;
export let sampleY: f32 = 0;
export let sampleZ: f32 = 0;
export let weightR: f32 = 0;
export let weightG: f32 = 0;
export let weightB: f32 = 0;
export let samplePdf: f32 = 0;
export let sampleTransmitted: bool = false;
/** The ray went straight on through a thin wall: it keeps what it knew of its last vertex. */
export let samplePassed: bool = false;

let at: usize = 0;
let fromInside: bool = false;
let chooseCoat: f32 = 0;
let chooseMetal: f32 = 0;
let chooseGlass: f32 = 0;
let chooseSpecular: f32 = 0;
let chooseDiffuse: f32 = 0;
let underCoatR: f32 = 0;
let underCoatG: f32 = 0;
let underCoatB: f32 = 0;
let wx: f32 = 0;
let wy: f32 = 0;
let wz: f32 = 0;

function square(x: f32): f32 {
  return x * x;
}

/** Fresnel reflectance of unpolarised light; `eta` is the index behind the surface over the index before it. */
export function fresnelDielectric(cosine: f32, eta: f32): f32 {
  const c = min<f32>(1, abs(cosine));
  const g2 = eta * eta - ONE + c * c;
  if (g2 <= 0) return 1;
  const g = sqrt(g2);
  const a = (g - c) / (g + c);
  const b = (c * (g + c) - 1) / (c * (g - c) + 1);
  return <f32>0.5 * a * a * (ONE + b * b);
}

function distribution(cosine: f32, alpha: f32): f32 {
  const a2 = alpha * alpha;
  const d = cosine * cosine * (a2 - 1) + 1;
  return a2 / (PI * d * d);
}

function smithLambda(cosine: f32, alpha: f32): f32 {
  const c2 = cosine * cosine;
  const tan2 = max<f32>(0, ONE - c2) / max<f32>(c2, 1e-12);
  return (sqrt<f32>(ONE + alpha * alpha * tan2) - 1) * 0.5;
}

let normalX: f32 = 0;
let normalY: f32 = 0;
let normalZ: f32 = 0;

/** A microfacet normal visible from (x, y, z), z > 0. */
function sampleVisibleNormal(x: f32, y: f32, z: f32, alpha: f32, u1: f32, u2: f32): void {
  let vx = alpha * x;
  let vy = alpha * y;
  let vz = z;
  const inv = <f32>1 / sqrt<f32>(vx * vx + vy * vy + vz * vz);
  vx *= inv;
  vy *= inv;
  vz *= inv;
  const flat = vx * vx + vy * vy;
  let t1x: f32 = 1, t1y: f32 = 0;
  if (flat > 1e-12) {
    const s = <f32>1 / sqrt<f32>(flat);
    t1x = -vy * s;
    t1y = vx * s;
  }
  const t2x = -vz * t1y, t2y = vz * t1x, t2z = vx * t1y - vy * t1x;
  const r = sqrt<f32>(u1);
  const phi = TWO * PI * u2;
  const p1 = r * Mathf.cos(phi);
  let p2 = r * Mathf.sin(phi);
  const s: f32 = <f32>0.5 * (ONE + vz);
  p2 = (ONE - s) * sqrt<f32>(max<f32>(0, ONE - p1 * p1)) + s * p2;
  const p3 = sqrt<f32>(max<f32>(0, ONE - p1 * p1 - p2 * p2));
  const nx = alpha * (p1 * t1x + p2 * t2x + p3 * vx);
  const ny = alpha * (p1 * t1y + p2 * t2y + p3 * vy);
  const nz = max<f32>(1e-6, p2 * t2z + p3 * vz);
  const n = <f32>1 / sqrt<f32>(nx * nx + ny * ny + nz * nz);
  normalX = nx * n;
  normalY = ny * n;
  normalZ = nz * n;
}

/** GGX reflection without Fresnel: function × cosine of the outgoing side; density by visible normals goes to `lobePdf`. */
let lobePdf: f32 = 0;
function reflectLobe(ox: f32, oy: f32, oz: f32, ix: f32, iy: f32, iz: f32, alpha: f32): f32 {
  let hx = ox + ix, hy = oy + iy, hz = oz + iz;
  const n = <f32>1 / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
  hz *= n;
  const d = distribution(hz, alpha);
  const lo = smithLambda(oz, alpha);
  const li = smithLambda(iz, alpha);
  lobePdf = d / ((ONE + lo) * 4 * oz);
  return d / ((ONE + lo + li) * 4 * oz);
}

function tableAt(table: usize, cosine: f32): f32 {
  const x = max<f32>(0, min<f32>(cosine, 1)) * <f32>(TABLE_STEPS - 1);
  const k = min<i32>(<i32>x, TABLE_STEPS - 2);
  const f = x - <f32>k;
  const entry = table + (<usize>k << 2);
  return load<f32>(entry) * (ONE - f) + load<f32>(entry, 4) * f;
}

/** Fills a table of directional albedo over the cosine; `ior` 0 means a perfect reflector. */
function fillTable(table: usize, alpha: f32, ior: f32): void {
  const count = 384;
  for (let step = 0; step < TABLE_STEPS; step++) {
    const mu = max<f32>(0.01, <f32>step / <f32>(TABLE_STEPS - 1));
    const x = sqrt<f32>(max<f32>(0, ONE - mu * mu));
    let sum: f32 = 0;
    for (let k = 0; k < count; k++) {
      const u1 = (<f32>k + 0.5) / <f32>count;
      const u2f = <f32>k * 0.61803398875;
      sampleVisibleNormal(x, 0, mu, alpha, u1, u2f - floor(u2f));
      const oh = x * normalX + mu * normalZ;
      const iz = TWO * oh * normalZ - mu;
      if (iz <= 0) continue;
      const lo = smithLambda(mu, alpha);
      const li = smithLambda(iz, alpha);
      const f: f32 = ior > 0 ? fresnelDielectric(oh, ior) : 1;
      sum += (f * (ONE + lo)) / (ONE + lo + li);
    }
    store<f32>(table + (<usize>step << 2), sum / <f32>count);
  }
  let mean: f32 = 0;
  const fine = 256;
  for (let k = 0; k < fine; k++) {
    const mu = (<f32>k + 0.5) / <f32>fine;
    mean += TWO * mu * tableAt(table, mu);
  }
  store<f32>(table + (<usize>TABLE_STEPS << 2), mean / <f32>fine);
}

/** Fills the tables of `count` finishes. */
export function prepareFinishes(first: usize, count: u32): void {
  for (let k: u32 = 0; k < count; k++) {
    const f = first + <usize>k * FINISH_SIZE;
    fillTable(f + FINISH_TABLE_DIELECTRIC, load<f32>(f, FINISH_ALPHA), max<f32>(1.0001, load<f32>(f, FINISH_IOR)));
    fillTable(f + FINISH_TABLE_COAT, load<f32>(f, FINISH_COAT_ALPHA), max<f32>(1.0001, load<f32>(f, FINISH_COAT_IOR)));
    fillTable(f + FINISH_TABLE_METAL, load<f32>(f, FINISH_ALPHA), 0);
  }
}

/** Sets the finish and the direction towards the viewer (z > 0) for the calls that follow. */
export function openFinish(finish: usize, x: f32, y: f32, z: f32, inside: bool): void {
  at = finish;
  fromInside = inside;
  wx = x;
  wy = y;
  wz = max<f32>(z, 1e-4);
  const coat: f32 = inside ? 0 : load<f32>(at, FINISH_COAT);
  const coatAlbedo = coat > 0 ? coat * tableAt(at + FINISH_TABLE_COAT, wz) : 0;
  const through = ONE - coatAlbedo;
  underCoatR = through * (ONE - coat + coat * load<f32>(at, FINISH_COAT_COLOR));
  underCoatG = through * (ONE - coat + coat * load<f32>(at, FINISH_COAT_COLOR + 4));
  underCoatB = through * (ONE - coat + coat * load<f32>(at, FINISH_COAT_COLOR + 8));
  const metal = load<f32>(at, FINISH_METALNESS);
  const transmission = load<f32>(at, FINISH_TRANSMISSION);
  const opaque = (ONE - metal) * (ONE - transmission);
  const specular = load<f32>(at, FINISH_SPECULAR) * tableAt(at + FINISH_TABLE_DIELECTRIC, wz);
  const r = load<f32>(at, FINISH_BASE), g = load<f32>(at, FINISH_BASE + 4), b = load<f32>(at, FINISH_BASE + 8);
  chooseCoat = coatAlbedo;
  chooseMetal = through * metal * max<f32>(0.1, max(r, max(g, b)));
  chooseGlass = through * (ONE - metal) * transmission;
  chooseSpecular = through * opaque * specular;
  chooseDiffuse = through * opaque * (ONE - specular) * max<f32>(0.05, max(r, max(g, b)));
  const sum = chooseCoat + chooseMetal + chooseGlass + chooseSpecular + chooseDiffuse;
  const inv: f32 = sum > 0 ? <f32>1 / sum : 0;
  chooseCoat *= inv;
  chooseMetal *= inv;
  chooseGlass *= inv;
  chooseSpecular *= inv;
  chooseDiffuse *= inv;
}

/** Is there anything here that a light could be sampled for? */
export function finishIsSmoothGlass(): bool {
  return chooseGlass > 0.999 && load<f32>(at, FINISH_ALPHA) < SMOOTH_ALPHA;
}

function relativeIor(): f32 {
  const ior = max<f32>(1.0001, load<f32>(at, FINISH_IOR));
  // A thin wall has no inside: the same air is on both of its sides.
  return fromInside && load<f32>(at, FINISH_THIN) <= 0 ? <f32>1 / ior : ior;
}

/** Function × cosine and density for a direction; perfectly smooth lobes are left out, as no light sample can meet them. */
export function evaluateFinish(ix: f32, iy: f32, iz: f32): void {
  scatterR = 0;
  scatterG = 0;
  scatterB = 0;
  scatterPdf = 0;
  if (iz < 0) {
    evaluateTransmission(ix, iy, iz);
    return;
  }
  if (iz < 1e-5) return;
  const alpha = load<f32>(at, FINISH_ALPHA);
  const r = load<f32>(at, FINISH_BASE), g = load<f32>(at, FINISH_BASE + 4), b = load<f32>(at, FINISH_BASE + 8);
  const halfLength = sqrt<f32>(square(wx + ix) + square(wy + iy) + square(wz + iz));
  const oh = (wx * (wx + ix) + wy * (wy + iy) + wz * (wz + iz)) / max<f32>(1e-10, halfLength);
  if (chooseCoat > 0) {
    const f = reflectLobe(wx, wy, wz, ix, iy, iz, load<f32>(at, FINISH_COAT_ALPHA));
    const value = f * load<f32>(at, FINISH_COAT) * fresnelDielectric(oh, load<f32>(at, FINISH_COAT_IOR));
    scatterR += value;
    scatterG += value;
    scatterB += value;
    scatterPdf += chooseCoat * lobePdf;
  }
  const metal = load<f32>(at, FINISH_METALNESS);
  if (chooseMetal > 0) {
    const f = metal * reflectLobe(wx, wy, wz, ix, iy, iz, alpha);
    scatterPdf += chooseMetal * lobePdf;
    const albedo = max<f32>(0.05, tableAt(at + FINISH_TABLE_METAL, wz));
    const more = (ONE - albedo) / albedo;
    const c = ONE - min<f32>(1, oh);
    const c5 = c * c * c * c * c;
    scatterR += f * underCoatR * (r + (ONE - r) * c5) * (ONE + r * more);
    scatterG += f * underCoatG * (g + (ONE - g) * c5) * (ONE + g * more);
    scatterB += f * underCoatB * (b + (ONE - b) * c5) * (ONE + b * more);
  }
  const transmission = load<f32>(at, FINISH_TRANSMISSION);
  if (chooseGlass > 0 && alpha >= SMOOTH_ALPHA) {
    const fresnel = glassReflectance(oh);
    const f = (ONE - metal) * transmission * fresnel * reflectLobe(wx, wy, wz, ix, iy, iz, alpha);
    scatterR += f * underCoatR;
    scatterG += f * underCoatG;
    scatterB += f * underCoatB;
    scatterPdf += chooseGlass * fresnel * lobePdf;
  }
  const opaque = (ONE - metal) * (ONE - transmission);
  if (opaque > 0) {
    const weight = load<f32>(at, FINISH_SPECULAR);
    const table = at + FINISH_TABLE_DIELECTRIC;
    if (chooseSpecular > 0) {
      const f = opaque * weight * fresnelDielectric(oh, load<f32>(at, FINISH_IOR)) * reflectLobe(wx, wy, wz, ix, iy, iz, alpha);
      scatterR += f * underCoatR;
      scatterG += f * underCoatG;
      scatterB += f * underCoatB;
      scatterPdf += chooseSpecular * lobePdf;
    }
    // Diffuse light enters and leaves through the same surface (Kulla and Conty, Revisiting Physically Based Shading, 2017).
    const mean = weight * load<f32>(table, TABLE_STEPS * 4);
    const f =
      opaque * (ONE - weight * tableAt(table, wz)) * (ONE - weight * tableAt(table, iz)) / max<f32>(0.01, ONE - mean) * iz * INV_PI;
    scatterR += f * underCoatR * r;
    scatterG += f * underCoatG * g;
    scatterB += f * underCoatB * b;
    scatterPdf += chooseDiffuse * iz * INV_PI;
  }
}

/** Reflectance of a glass surface; a thin wall adds what bounces between its two sides. */
function glassReflectance(cosine: f32): f32 {
  const f = fresnelDielectric(cosine, relativeIor());
  return load<f32>(at, FINISH_THIN) > 0 ? (TWO * f) / (ONE + f) : f;
}

function evaluateTransmission(ix: f32, iy: f32, iz: f32): void {
  const alpha = load<f32>(at, FINISH_ALPHA);
  if (chooseGlass <= 0 || alpha < SMOOTH_ALPHA) return;
  const amount = (ONE - load<f32>(at, FINISH_METALNESS)) * load<f32>(at, FINISH_TRANSMISSION);
  let value: f32 = 0;
  if (load<f32>(at, FINISH_THIN) > 0) {
    // A rough thin wall scatters as its reflection lobe turned to the far side.
    const length = sqrt<f32>(square(wx + ix) + square(wy + iy) + square(wz - iz));
    const oh = (wx * (wx + ix) + wy * (wy + iy) + wz * (wz - iz)) / max<f32>(1e-10, length);
    const f = ONE - glassReflectance(oh);
    value = f * reflectLobe(wx, wy, wz, ix, iy, -iz, alpha);
    scatterPdf = chooseGlass * f * lobePdf;
  } else {
    const eta = relativeIor();
    let hx = -(wx + eta * ix), hy = -(wy + eta * iy), hz = -(wz + eta * iz);
    const n = <f32>1 / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
    hx *= n;
    hy *= n;
    hz *= n;
    if (hz < 0) {
      hx = -hx;
      hy = -hy;
      hz = -hz;
    }
    const oh = wx * hx + wy * hy + wz * hz;
    const ih = ix * hx + iy * hy + iz * hz;
    if (oh <= 0 || ih >= 0) return;
    const f = ONE - fresnelDielectric(oh, eta);
    const d = distribution(hz, alpha);
    const lo = smithLambda(wz, alpha);
    const li = smithLambda(-iz, alpha);
    const denominator = square(oh + eta * ih);
    const jacobian = (eta * eta * abs(ih)) / max<f32>(1e-12, denominator);
    value = (f * d * oh * jacobian) / ((ONE + lo + li) * wz);
    // Radiance is squeezed or spread with the square of the index.
    value /= eta * eta;
    scatterPdf = (chooseGlass * f * d * oh * jacobian) / ((ONE + lo) * wz);
  }
  scatterR = value * amount * underCoatR * tint(0);
  scatterG = value * amount * underCoatG * tint(4);
  scatterB = value * amount * underCoatB * tint(8);
}

function tint(offset: usize): f32 {
  // A solid is tinted once, as light enters; what leaves was tinted already.
  return fromInside ? 1 : load<f32>(at + FINISH_TINT + offset);
}

/** Chooses a direction. Returns false where the light is absorbed. */
export function sampleFinish(choice: f32, u1: f32, u2: f32): bool {
  sampleTransmitted = false;
  samplePassed = false;
  const alpha = load<f32>(at, FINISH_ALPHA);
  let c = choice;
  if (c < chooseCoat) return reflectSample(load<f32>(at, FINISH_COAT_ALPHA), u1, u2);
  c -= chooseCoat;
  if (c < chooseMetal) return reflectSample(alpha, u1, u2);
  c -= chooseMetal;
  if (c < chooseGlass) return sampleGlass(c / chooseGlass, u1, u2, alpha);
  c -= chooseGlass;
  if (c < chooseSpecular) return reflectSample(alpha, u1, u2);
  if (chooseDiffuse <= 0) return false;
  const r = sqrt<f32>(u1);
  const phi = TWO * PI * u2;
  return finishSample(r * Mathf.cos(phi), r * Mathf.sin(phi), sqrt<f32>(max<f32>(1e-8, ONE - u1)));
}

function reflectSample(alpha: f32, u1: f32, u2: f32): bool {
  sampleVisibleNormal(wx, wy, wz, alpha, u1, u2);
  const oh = wx * normalX + wy * normalY + wz * normalZ;
  return finishSample(TWO * oh * normalX - wx, TWO * oh * normalY - wy, TWO * oh * normalZ - wz);
}

/** Weighs a direction chosen by one lobe against all of them. */
function finishSample(x: f32, y: f32, z: f32): bool {
  sampleX = x;
  sampleY = y;
  sampleZ = z;
  if (sampleTransmitted ? z > -1e-5 : z < 1e-5) return false;
  evaluateFinish(x, y, z);
  if (!(scatterPdf > 1e-12)) return false;
  const inv = <f32>1 / scatterPdf;
  weightR = scatterR * inv;
  weightG = scatterG * inv;
  weightB = scatterB * inv;
  samplePdf = scatterPdf;
  return true;
}

function sampleGlass(choice: f32, u1: f32, u2: f32, alpha: f32): bool {
  const thin = load<f32>(at, FINISH_THIN) > 0;
  const smooth = alpha < SMOOTH_ALPHA;
  if (smooth) {
    normalX = 0;
    normalY = 0;
    normalZ = 1;
  } else {
    sampleVisibleNormal(wx, wy, wz, alpha, u1, u2);
  }
  const oh = wx * normalX + wy * normalY + wz * normalZ;
  const reflectance = glassReflectance(oh);
  const amount = ((ONE - load<f32>(at, FINISH_METALNESS)) * load<f32>(at, FINISH_TRANSMISSION)) / chooseGlass;
  if (choice < reflectance) {
    const x = TWO * oh * normalX - wx, y = TWO * oh * normalY - wy, z = TWO * oh * normalZ - wz;
    if (!smooth) return finishSample(x, y, z);
    return perfectSample(x, y, z, amount, false);
  }
  sampleTransmitted = true;
  if (thin) {
    if (!smooth) return finishSample(TWO * oh * normalX - wx, TWO * oh * normalY - wy, -(TWO * oh * normalZ - wz));
    samplePassed = true;
    return perfectSample(-wx, -wy, -wz, amount, true);
  }
  const eta = relativeIor();
  const inside = ONE - (ONE - oh * oh) / (eta * eta);
  if (inside <= 0) return false;
  const k = oh / eta - sqrt<f32>(inside);
  const x = -wx / eta + k * normalX, y = -wy / eta + k * normalY, z = -wz / eta + k * normalZ;
  if (!smooth) return finishSample(x, y, z);
  return perfectSample(x, y, z, amount / (eta * eta), true);
}

function perfectSample(x: f32, y: f32, z: f32, amount: f32, tinted: bool): bool {
  sampleX = x;
  sampleY = y;
  sampleZ = z;
  samplePdf = 0;
  weightR = amount * underCoatR * (tinted ? tint(0) : 1);
  weightG = amount * underCoatG * (tinted ? tint(4) : 1);
  weightB = amount * underCoatB * (tinted ? tint(8) : 1);
  return true;
}

/** What a thin smooth wall lets straight through, per channel, for light that meets it under a cosine; 0 if it is none. */
export function straightThrough(finish: usize, cosine: f32, channel: usize): f32 {
  if (load<f32>(finish, FINISH_THIN) <= 0 || load<f32>(finish, FINISH_ALPHA) >= SMOOTH_ALPHA) return 0;
  const f = fresnelDielectric(cosine, max<f32>(1.0001, load<f32>(finish, FINISH_IOR)));
  const coat = load<f32>(finish, FINISH_COAT);
  const coatThrough = coat > 0
    ? (ONE - coat * tableAt(finish + FINISH_TABLE_COAT, abs(cosine))) * (ONE - coat + coat * load<f32>(finish + FINISH_COAT_COLOR + channel))
    : <f32>1;
  return (ONE - (TWO * f) / (ONE + f)) * coatThrough * load<f32>(finish + FINISH_TINT + channel) *
    (ONE - load<f32>(finish, FINISH_METALNESS)) * load<f32>(finish, FINISH_TRANSMISSION);
}
