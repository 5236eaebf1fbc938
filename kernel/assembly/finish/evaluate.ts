// What a finish scatters from one direction into another, lobe by lobe. Refraction through microfacets after Walter et al.,
// Microfacet Models for Refraction through Rough Surfaces, 2007. What single scattering loses in clear rough surfaces comes back as
// in Turquin, Practical multiple scattering compensation for microfacet models, 2019.

import { fuzzDistribution, fuzzVisibility, glassAlbedo, metalAlbedo } from '../energy';
import { fresnelDielectric } from '../fresnel';
import {
  FINISH_BASE,
  FINISH_COAT_IOR,
  FINISH_DIFFUSE_ROUGHNESS,
  FINISH_FUZZ,
  FINISH_FUZZ_COLOR,
  FINISH_FUZZ_ROUGHNESS,
  FINISH_SPECULAR,
  FINISH_SPECULAR_COLOR,
  FINISH_SUBSURFACE_ANISOTROPY,
  FINISH_SUBSURFACE_COLOR,
} from '../layout';
import { distribution, lobePdf, reflectLobe, smithLambda } from '../microfacet';
import { etaBend, etaShine, glassShine, shine, shineB, shineChance, shineG, shineR } from './clear';
import { coatAx, coatAy, coatShadow, coatTint, coatWeight } from './coat';
import { openRoughDiffuse, roughDiffuse } from './diffuse';
import { metalB, metalG, metalLoss, metalR, openMetal, scatteredAgain } from './metal';
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
  diffuse,
  get,
  glass,
  leaving,
  metal,
  root,
  shadow,
  shineOut,
  shines,
  smooth,
  subsurface,
  thin,
  tint,
  towards,
  underB,
  underFuzz,
  underG,
  underR,
  wx,
  wy,
  wz,
} from './opened';

const ONE: f32 = 1;
const INV_PI: f32 = 0.31830988618379;

/** Results: the scattering function times the cosine, and the density of `sampleFinish`. */
export let scatterR: f32 = 0;
export let scatterG: f32 = 0;
export let scatterB: f32 = 0;
export let scatterPdf: f32 = 0;

// The lobe that is being added: half way between the two directions, its cosine to them, and what the layers above leave.
let hx: f32 = 0;
let hy: f32 = 0;
let hz: f32 = 0;
let oh: f32 = 0;
let leftR: f32 = 0;
let leftG: f32 = 0;
let leftB: f32 = 0;

function square(x: f32): f32 {
  return x * x;
}

/** Adds a lobe: colour, and density with the chance of its choice. */
function addLobe(r: f32, g: f32, b: f32, pdf: f32): void {
  scatterR += r;
  scatterG += g;
  scatterB += b;
  scatterPdf += pdf;
}

/** Function × cosine and density for a direction; perfectly smooth lobes are left out, as no light sample can meet them. */
export function evaluateFinish(ix: f32, iy: f32, iz: f32): void {
  scatterR = 0;
  scatterG = 0;
  scatterB = 0;
  scatterPdf = 0;
  if (iz < 0) {
    addThinGlow(ix, iy, iz);
    addTransmission(ix, iy, iz);
    return;
  }
  if (iz < 1e-5) return;
  hx = wx + ix;
  hy = wy + iy;
  hz = wz + iz;
  const half = ONE / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
  hx *= half;
  hy *= half;
  hz *= half;
  oh = min<f32>(1, wx * hx + wy * hy + wz * hz);
  leftR = underR * coatTint(iz, 0);
  leftG = underG * coatTint(iz, 4);
  leftB = underB * coatTint(iz, 8);
  if (chooseMetal > 0) addMetal(ix, iy, iz);
  if (chooseGlass > 0 && !smooth) addGlassShine(ix, iy, iz);
  if (diffuse + subsurface > 0) {
    if (shines) addShine(ix, iy, iz);
    addBase(ix, iy, iz);
  }
  if (chooseCoat > 0) addCoat(ix, iy, iz);
  if (chooseFuzz > 0) addFuzz(iz);
}

function addMetal(ix: f32, iy: f32, iz: f32): void {
  const f = metal * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay);
  const pdf = chooseMetal * lobePdf;
  openMetal(oh);
  const weight = get(FINISH_SPECULAR);
  const lost = metalLoss(root);
  const more: f32 =
    lost > 1e-4
      ? (metal * (ONE - metalAlbedo(wz, towards(wx, wy))) * (ONE - metalAlbedo(iz, towards(ix, iy))) * iz * INV_PI) /
        lost
      : 0;
  addLobe(
    weight * leftR * (f * metalR + more * scatteredAgain(get(FINISH_BASE), get(FINISH_SPECULAR_COLOR), lost)),
    weight * leftG * (f * metalG + more * scatteredAgain(get(FINISH_BASE + 4), get(FINISH_SPECULAR_COLOR + 4), lost)),
    weight * leftB * (f * metalB + more * scatteredAgain(get(FINISH_BASE + 8), get(FINISH_SPECULAR_COLOR + 8), lost)),
    pdf,
  );
}

/** What rough glass reflects. */
function addGlassShine(ix: f32, iy: f32, iz: f32): void {
  glassShine(oh);
  addShineLobe(
    (glass * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay)) / lossOfGlass(),
    chooseGlass * shineChance * lobePdf,
  );
}

/** What the clear surface of the opaque base reflects. */
function addShine(ix: f32, iy: f32, iz: f32): void {
  shine(oh);
  const f = (diffuse + subsurface) * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay);
  addShineLobe(f, chooseSpecular * lobePdf);
}

function addShineLobe(f: f32, pdf: f32): void {
  addLobe(
    f * leftR * shineR * get(FINISH_SPECULAR_COLOR),
    f * leftG * shineG * get(FINISH_SPECULAR_COLOR + 4),
    f * leftB * shineB * get(FINISH_SPECULAR_COLOR + 8),
    pdf,
  );
}

/** Diffuse light enters and leaves through the same surface. */
function addBase(ix: f32, iy: f32, iz: f32): void {
  const passed = (ONE - shineOut) * leaving(ix, iy, iz) * iz * INV_PI;
  if (diffuse > 0) {
    openRoughDiffuse(get(FINISH_DIFFUSE_ROUGHNESS), wz, iz, wx * ix + wy * iy);
    addLobe(
      diffuse * passed * leftR * roughDiffuse(get(FINISH_BASE)),
      diffuse * passed * leftG * roughDiffuse(get(FINISH_BASE + 4)),
      diffuse * passed * leftB * roughDiffuse(get(FINISH_BASE + 8)),
      chooseDiffuse * iz * INV_PI,
    );
  }
  if (subsurface > 0 && thin) {
    const back = <f32>0.5 * (ONE - get(FINISH_SUBSURFACE_ANISOTROPY));
    addLobe(
      subsurface * back * passed * leftR * get(FINISH_SUBSURFACE_COLOR),
      subsurface * back * passed * leftG * get(FINISH_SUBSURFACE_COLOR + 4),
      subsurface * back * passed * leftB * get(FINISH_SUBSURFACE_COLOR + 8),
      chooseSubsurface * back * iz * INV_PI,
    );
  }
}

function addCoat(ix: f32, iy: f32, iz: f32): void {
  const f =
    underFuzz *
    coatWeight *
    reflectLobe(wz, coatShadow, ix, iy, iz, hx, hy, hz, coatAx, coatAy) *
    fresnelDielectric(oh, get(FINISH_COAT_IOR));
  addLobe(f, f, f, chooseCoat * lobePdf);
}

function addFuzz(iz: f32): void {
  const f = get(FINISH_FUZZ) * fuzzDistribution(hz, get(FINISH_FUZZ_ROUGHNESS)) * fuzzVisibility(iz, wz) * iz;
  addLobe(
    f * get(FINISH_FUZZ_COLOR),
    f * get(FINISH_FUZZ_COLOR + 4),
    f * get(FINISH_FUZZ_COLOR + 8),
    chooseFuzz * iz * INV_PI,
  );
}

function lossOfGlass(): f32 {
  return thin ? ONE : max<f32>(0.2, glassAlbedo(wz, root, etaShine));
}

/** What a thin translucent sheet lets through to its far side. */
function addThinGlow(ix: f32, iy: f32, iz: f32): void {
  if (!thin || !(subsurface > 0)) return;
  const ahead = <f32>0.5 * (ONE + get(FINISH_SUBSURFACE_ANISOTROPY));
  const f = subsurface * ahead * (ONE - shineOut) * leaving(ix, iy, -iz) * -iz * INV_PI;
  addLobe(
    f * underR * get(FINISH_SUBSURFACE_COLOR),
    f * underG * get(FINISH_SUBSURFACE_COLOR + 4),
    f * underB * get(FINISH_SUBSURFACE_COLOR + 8),
    chooseSubsurface * ahead * -iz * INV_PI,
  );
}

/** What passes through rough glass. */
function addTransmission(ix: f32, iy: f32, iz: f32): void {
  if (chooseGlass <= 0 || smooth) return;
  let value: f32 = 0,
    pdf: f32 = 0;
  if (thin) {
    // A rough thin wall scatters as its reflection lobe turned to the far side.
    hx = wx + ix;
    hy = wy + iy;
    hz = wz - iz;
    const half = ONE / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
    hx *= half;
    hy *= half;
    hz *= half;
    glassShine(min<f32>(1, wx * hx + wy * hy + wz * hz));
    value = reflectLobe(wz, shadow, ix, iy, -iz, hx, hy, hz, ax, ay);
    pdf = lobePdf;
  } else {
    const eta = etaBend;
    hx = -(wx + eta * ix);
    hy = -(wy + eta * iy);
    hz = -(wz + eta * iz);
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
    glassShine(oh);
    const d = distribution(hx, hy, hz, ax, ay);
    const lo = shadow,
      li = smithLambda(ix, iy, -iz, ax, ay);
    const denominator = square(oh + eta * ih);
    const jacobian = (eta * eta * abs(ih)) / max<f32>(1e-12, denominator);
    value = (d * oh * jacobian) / ((ONE + lo + li) * wz);
    // Radiance is squeezed or spread with the square of the index.
    value /= eta * eta * lossOfGlass();
    pdf = (d * oh * jacobian) / ((ONE + lo) * wz);
  }
  value *= glass;
  addLobe(
    value * (ONE - shineR) * underR * tint(0),
    value * (ONE - shineG) * underG * tint(4),
    value * (ONE - shineB) * underB * tint(8),
    chooseGlass * (ONE - shineChance) * pdf,
  );
}

/**
 * The way out for light that was scattered below the surface: function × cosine and density, as of an even glow. The finish must
 * have been opened with the outward normal as the direction of view.
 */
export function evaluateExit(iz: f32): void {
  const f = max<f32>(0, iz) * INV_PI;
  const value = f * leaving(0, 0, iz);
  scatterR = value * coatTint(iz, 0);
  scatterG = value * coatTint(iz, 4);
  scatterB = value * coatTint(iz, 8);
  scatterPdf = f;
}

/** Sets what a point in space scatters instead of a surface. */
export function evaluatePhase(r: f32, g: f32, b: f32): void {
  scatterR = r;
  scatterG = g;
  scatterB = b;
}
