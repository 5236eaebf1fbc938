// Choosing a direction from a finish that is open: a lobe by its chance, a direction by the lobe, weighed against all lobes.

import { turn, turnCosine, turnSine } from '../angle';
import { FINISH_SPECULAR_COLOR, FINISH_SUBSURFACE_ANISOTROPY } from '../layout';
import { facetX, facetY, facetZ, sampleVisibleNormal } from '../microfacet';
import { etaBend, glassShine, shineB, shineChance, shineG, shineR } from './clear';
import { coatAx, coatAy } from './coat';
import { evaluateFinish, scatterB, scatterG, scatterPdf, scatterR } from './evaluate';
import {
  ax,
  ay,
  chooseCoat,
  chooseDiffuse,
  chooseFuzz,
  chooseGlass,
  chooseMetal,
  chooseSpecular,
  chooseSubsurface,
  get,
  glass,
  openFinish,
  shineOut,
  smooth,
  subsurface,
  thin,
  tint,
  underB,
  underG,
  underR,
  wx,
  wy,
  wz,
} from './opened';

const ONE: f32 = 1;
const TWO: f32 = 2;

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
/** The light went under the surface, to be scattered there. */
export let sampleEntered: bool = false;

/** Chooses a direction. Returns false where the light is absorbed. */
export function sampleFinish(choice: f32, u1: f32, u2: f32): bool {
  sampleTransmitted = false;
  samplePassed = false;
  sampleEntered = false;
  let c = choice;
  if (c < chooseCoat) return reflectSample(coatAx, coatAy, u1, u2);
  c -= chooseCoat;
  if (c < chooseMetal) return reflectSample(ax, ay, u1, u2);
  c -= chooseMetal;
  if (c < chooseGlass) return sampleGlass(c / chooseGlass, u1, u2);
  c -= chooseGlass;
  if (c < chooseSpecular) return reflectSample(ax, ay, u1, u2);
  c -= chooseSpecular;
  const r = sqrt<f32>(u1);
  turn(u2);
  const x = r * turnCosine,
    y = r * turnSine,
    z = sqrt<f32>(max<f32>(1e-8, ONE - u1));
  if (c < chooseSubsurface) {
    if (thin) {
      sampleTransmitted = c / chooseSubsurface < <f32>0.5 * (ONE + get(FINISH_SUBSURFACE_ANISOTROPY));
      return finishSample(x, y, sampleTransmitted ? -z : z);
    }
    sampleTransmitted = true;
    sampleEntered = true;
    perfectSample(x, y, -z, (subsurface * (ONE - shineOut)) / chooseSubsurface);
    return true;
  }
  if (chooseDiffuse + chooseFuzz <= 0) return false;
  return finishSample(x, y, z);
}

/** Sets the weights of a direction that was chosen elsewhere, with a density that counts that choice too. */
export function weighDirection(x: f32, y: f32, z: f32, pdf: f32): bool {
  sampleX = x;
  sampleY = y;
  sampleZ = z;
  sampleTransmitted = z < 0;
  samplePassed = false;
  sampleEntered = false;
  samplePdf = pdf;
  if (!(pdf > 1e-12)) return false;
  const inv = ONE / pdf;
  weightR = scatterR * inv;
  weightG = scatterG * inv;
  weightB = scatterB * inv;
  return true;
}

function reflectSample(lobeX: f32, lobeY: f32, u1: f32, u2: f32): bool {
  sampleVisibleNormal(wx, wy, wz, lobeX, lobeY, u1, u2);
  const oh = wx * facetX + wy * facetY + wz * facetZ;
  return finishSample(TWO * oh * facetX - wx, TWO * oh * facetY - wy, TWO * oh * facetZ - wz);
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

function sampleGlass(choice: f32, u1: f32, u2: f32): bool {
  let nx: f32 = 0,
    ny: f32 = 0,
    nz: f32 = 1;
  if (!smooth) {
    sampleVisibleNormal(wx, wy, wz, ax, ay, u1, u2);
    nx = facetX;
    ny = facetY;
    nz = facetZ;
  }
  const oh = min<f32>(1, wx * nx + wy * ny + wz * nz);
  glassShine(oh);
  const mirrorX = TWO * oh * nx - wx,
    mirrorY = TWO * oh * ny - wy,
    mirrorZ = TWO * oh * nz - wz;
  if (choice < shineChance) {
    if (!smooth) return finishSample(mirrorX, mirrorY, mirrorZ);
    perfectSample(mirrorX, mirrorY, mirrorZ, glass / (chooseGlass * shineChance));
    weightR *= shineR * get(FINISH_SPECULAR_COLOR);
    weightG *= shineG * get(FINISH_SPECULAR_COLOR + 4);
    weightB *= shineB * get(FINISH_SPECULAR_COLOR + 8);
    return true;
  }
  sampleTransmitted = true;
  let x = -wx,
    y = -wy,
    z = -wz;
  let spread: f32 = 1;
  if (thin) {
    if (!smooth) return finishSample(mirrorX, mirrorY, -mirrorZ);
    samplePassed = true;
  } else {
    const inside = ONE - (ONE - oh * oh) / (etaBend * etaBend);
    if (inside <= 0) return false;
    const k = oh / etaBend - sqrt<f32>(inside);
    x = k * nx - wx / etaBend;
    y = k * ny - wy / etaBend;
    z = k * nz - wz / etaBend;
    if (!smooth) return finishSample(x, y, z);
    spread = etaBend * etaBend;
  }
  perfectSample(x, y, z, glass / (chooseGlass * (ONE - shineChance) * spread));
  weightR *= (ONE - shineR) * tint(0);
  weightG *= (ONE - shineG) * tint(4);
  weightB *= (ONE - shineB) * tint(8);
  return true;
}

function perfectSample(x: f32, y: f32, z: f32, amount: f32): void {
  sampleX = x;
  sampleY = y;
  sampleZ = z;
  samplePdf = 0;
  weightR = amount * underR;
  weightG = amount * underG;
  weightB = amount * underB;
}

/** What a thin smooth wall lets straight through, per channel, for light that meets it under a cosine; 0 if it is none. */
export function straightThrough(finish: usize, cosine: f32): void {
  openFinish(finish, sqrt<f32>(max<f32>(0, ONE - cosine * cosine)), 0, cosine, false, 1, 0);
  weightR = 0;
  weightG = 0;
  weightB = 0;
  if (!thin || !smooth || glass <= 0) return;
  glassShine(cosine);
  weightR = (ONE - shineR) * underR * tint(0) * glass;
  weightG = (ONE - shineG) * underG * tint(4) * glass;
  weightB = (ONE - shineB) * underB * tint(8) * glass;
}
