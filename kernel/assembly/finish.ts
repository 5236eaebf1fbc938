// Scattering at a surface, after the OpenPBR Surface specification 1.1, in a local frame whose z is the shading normal and whose x
// is the tangent. Layers from the top: fuzz, coat, then a mix of metal, glass and an opaque base (specular over diffuse or
// subsurface). What a layer does not reflect reaches the one below, by directional albedo.
// Refraction through microfacets after Walter et al., Microfacet Models for Refraction through Rough Surfaces, 2007. What single
// scattering loses comes back: on metals as in Kulla and Conty, Revisiting Physically Based Shading at Imageworks, 2017; in
// clear rough surfaces as in Turquin, Practical multiple scattering compensation for microfacet models, 2019.

import { turn, turnCosine, turnSine } from './angle';
import {
  fuzzAlbedo,
  fuzzDistribution,
  fuzzVisibility,
  glassAlbedo,
  metalAlbedo,
  metalMean,
  openOuter,
  outerAlbedo,
  outerAlbedoThere,
  outerMean,
  outerMeanThere,
} from './energy';
import { fresnelB, fresnelDielectric, fresnelFilm, fresnelG, fresnelMetal, fresnelR, weightedIndex } from './fresnel';
import {
  FINISH_ANISOTROPY,
  FINISH_BASE,
  FINISH_CAUCHY,
  FINISH_COAT,
  FINISH_COAT_ANISOTROPY,
  FINISH_COAT_COLOR,
  FINISH_COAT_DARKENING,
  FINISH_COAT_IOR,
  FINISH_COAT_ROUGHNESS,
  FINISH_DIFFUSE_ROUGHNESS,
  FINISH_FILM,
  FINISH_FILM_IOR,
  FINISH_FILM_THICKNESS,
  FINISH_FUZZ,
  FINISH_FUZZ_COLOR,
  FINISH_FUZZ_ROUGHNESS,
  FINISH_IOR,
  FINISH_METALNESS,
  FINISH_ROUGHNESS,
  FINISH_SPECULAR,
  FINISH_SPECULAR_COLOR,
  FINISH_SUBSURFACE,
  FINISH_SUBSURFACE_ANISOTROPY,
  FINISH_SUBSURFACE_COLOR,
  FINISH_THIN,
  FINISH_TINT,
  FINISH_TRANSMISSION,
} from './layout';
import {
  distribution,
  facetX,
  facetY,
  facetZ,
  lobePdf,
  reflectLobe,
  sampleVisibleNormal,
  smithLambda,
} from './microfacet';

const ONE: f32 = 1;
const TWO: f32 = 2;
const INV_PI: f32 = 0.31830988618379;
/** Below this roughness a glass surface is treated as perfectly smooth. */
const SMOOTH_ROUGHNESS: f32 = 0.03;
/** Everything but glass has some width. */
const LEAST_ALPHA: f32 = 0.002;

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
/** The light went under the surface, to be scattered there. */
export let sampleEntered: bool = false;

let at: usize = 0;
let fromInside: bool = false;
let thin: bool = false;
let smooth: bool = false;
let wx: f32 = 0;
let wy: f32 = 0;
let wz: f32 = 0;

// Widths of the lobes along x and y, and the root of their mean, by which the energy tables go.
let ax: f32 = 0;
let ay: f32 = 0;
let root: f32 = 0;
let coatAx: f32 = 0;
let coatAy: f32 = 0;
let coatRoot: f32 = 0;

/** Shadowing of the lobes towards the viewer. */
let shadow: f32 = 0;
let coatShadow: f32 = 0;

/** Index behind the surface over the index before it, for bending rays and for reflecting them. */
let etaBend: f32 = 0;
let etaShine: f32 = 0;

// What the layers above leave to metal, glass and base.
let underR: f32 = 0;
let underG: f32 = 0;
let underB: f32 = 0;
let coatWeight: f32 = 0;
let coatAlbedo: f32 = 0;
let coatTinted: bool = false;
let underFuzz: f32 = 0;
/** What the shine takes from light in the direction of view, and on average. */
let shineOut: f32 = 0;
let shineMean: f32 = 0;
let shineFilm: f32 = 1;
let shines: bool = false;
let metal: f32 = 0;
let glass: f32 = 0;
let diffuse: f32 = 0;
let subsurface: f32 = 0;

let chooseFuzz: f32 = 0;
let chooseCoat: f32 = 0;
let chooseMetal: f32 = 0;
let chooseGlass: f32 = 0;
let chooseSpecular: f32 = 0;
let chooseDiffuse: f32 = 0;
let chooseSubsurface: f32 = 0;

function square(x: f32): f32 {
  return x * x;
}

function get(offset: i32): f32 {
  return load<f32>(at + <usize>offset);
}

/** Root of the width that a lobe has towards a direction: of even lobes the same everywhere. */
function towards(x: f32, y: f32, lobeX: f32, lobeY: f32, even: f32): f32 {
  if (lobeX === lobeY) return even;
  const flat = x * x + y * y;
  if (flat < 1e-9) return even;
  return sqrt<f32>(sqrt<f32>((lobeX * lobeX * x * x + lobeY * lobeY * y * y) / flat));
}

/** Index of a medium at a wavelength in nm (0 for the mean, at 587.6 nm) by Cauchy's equation. */
export function indexAt(finish: usize, nanometres: f32): f32 {
  const ior = max<f32>(1.0001, load<f32>(finish, FINISH_IOR));
  const b = load<f32>(finish, FINISH_CAUCHY);
  if (!(nanometres > 0 && b > 0)) return ior;
  return ior + b * (ONE / (nanometres * nanometres) - <f32>2.8962e-6);
}

/**
 * Sets the finish and the direction towards the viewer (z > 0) for the calls that follow.
 * @param surround index of what the surface borders on, 1 for air
 * @param nanometres the path's wavelength, 0 while it carries all of them
 */
export function openFinish(finish: usize, x: f32, y: f32, z: f32, inside: bool, surround: f32, nanometres: f32): void {
  at = finish;
  fromInside = inside;
  thin = get(FINISH_THIN) > 0;
  wx = x;
  wy = y;
  wz = max<f32>(z, 1e-4);
  const coatRoughness = get(FINISH_COAT_ROUGHNESS);
  const coat: f32 = inside && !thin ? 0 : get(FINISH_COAT);
  const fuzz: f32 = inside && !thin ? 0 : get(FINISH_FUZZ);
  coatWeight = coat;
  let roughness = get(FINISH_ROUGHNESS);
  if (coat > 0 && coatRoughness > 0) {
    // A rough coat blurs what is seen through it.
    const r2 = roughness * roughness,
      c2 = coatRoughness * coatRoughness;
    roughness += coat * (min<f32>(1, sqrt<f32>(sqrt<f32>(r2 * r2 + TWO * c2 * c2))) - roughness);
  }
  smooth = roughness < SMOOTH_ROUGHNESS;
  const alpha = max<f32>(LEAST_ALPHA, roughness * roughness);
  const aspect = ONE - get(FINISH_ANISOTROPY);
  ax = aspect < 1 ? alpha * sqrt<f32>(TWO / (ONE + aspect * aspect)) : alpha;
  ay = aspect < 1 ? max<f32>(LEAST_ALPHA, ax * aspect) : alpha;
  root = aspect < 1 ? sqrt<f32>(sqrt<f32>((ax * ax + ay * ay) * <f32>0.5)) : sqrt<f32>(alpha);
  shadow = smithLambda(wx, wy, wz, ax, ay);

  // A thin wall has no inside: the same air is on both of its sides.
  const index = indexAt(finish, nanometres);
  etaBend = inside && !thin ? surround / index : index / surround;
  if (abs(etaBend - 1) < 1e-4) etaBend = 1.0001;
  etaShine = weightedIndex(etaBend, get(FINISH_SPECULAR));
  if (abs(etaShine - 1) < 1e-4) etaShine = etaShine < 1 ? 0.9999 : 1.0001;

  underFuzz = fuzz > 0 ? ONE - fuzz * fuzzAlbedo(wz, get(FINISH_FUZZ_ROUGHNESS)) : 1;
  metal = get(FINISH_METALNESS);
  const transmission = get(FINISH_TRANSMISSION);
  const opaque = (ONE - metal) * (ONE - transmission);
  glass = (ONE - metal) * transmission;
  // Seen from within there is nothing below the surface.
  subsurface = inside && !thin ? 0 : opaque * get(FINISH_SUBSURFACE);
  diffuse = opaque - subsurface;
  const r = get(FINISH_BASE),
    g = get(FINISH_BASE + 4),
    b = get(FINISH_BASE + 8);

  coatAlbedo = 0;
  underR = underFuzz;
  underG = underFuzz;
  underB = underFuzz;
  coatTinted = false;
  if (coat > 0) openCoat(coat, coatRoughness, r, g, b);

  const through = underFuzz * (ONE - coatAlbedo);
  const bright = max(r, max(g, b));
  // From within, what is not clear only scatters: the inner shine would leave it less than the tables for the outside tell.
  shines = opaque > 0 && (!inside || thin);
  shineOut = 0;
  shineMean = 0;
  if (shines) {
    openOuter(towards(wx, wy, ax, ay, root), etaShine);
    shineOut = outerAlbedoThere(wz);
    // Of a brushed surface the mean is that of its even width.
    shineMean = ax === ay ? outerMeanThere : outerMean(root, etaShine);
  }
  if (shines && get(FINISH_FILM) > 0) {
    // A film reflects more or less than the surface without it.
    shine(wz);
    shineFilm = (shineR + shineG + shineB) / (<f32>3 * max<f32>(1e-4, fresnelDielectric(wz, etaShine)));
    shineOut = min<f32>(1, shineOut * shineFilm);
    shineMean = min<f32>(0.98, shineMean * shineFilm);
  } else shineFilm = 1;
  chooseFuzz = ONE - underFuzz;
  chooseCoat = underFuzz * coatAlbedo;
  chooseMetal = through * metal * max<f32>(0.1, bright);
  chooseGlass = through * glass;
  chooseSpecular = through * opaque * shineOut;
  chooseDiffuse = through * (ONE - shineOut) * diffuse * max<f32>(0.05, bright);
  chooseSubsurface = through * (ONE - shineOut) * subsurface;
  const sum = chooseFuzz + chooseCoat + chooseMetal + chooseGlass + chooseSpecular + chooseDiffuse + chooseSubsurface;
  const inv: f32 = sum > 0 ? <f32>1 / sum : 0;
  chooseFuzz *= inv;
  chooseCoat *= inv;
  chooseMetal *= inv;
  chooseGlass *= inv;
  chooseSpecular *= inv;
  chooseDiffuse *= inv;
  chooseSubsurface *= inv;
}

function openCoat(coat: f32, coatRoughness: f32, r: f32, g: f32, b: f32): void {
  const alpha = max<f32>(LEAST_ALPHA, coatRoughness * coatRoughness);
  const aspect = ONE - get(FINISH_COAT_ANISOTROPY);
  coatAx = aspect < 1 ? alpha * sqrt<f32>(TWO / (ONE + aspect * aspect)) : alpha;
  coatAy = aspect < 1 ? max<f32>(LEAST_ALPHA, coatAx * aspect) : alpha;
  coatRoot = sqrt<f32>(sqrt<f32>(coatAx * coatAy));
  coatShadow = smithLambda(wx, wy, wz, coatAx, coatAy);
  const ior = max<f32>(1.0001, get(FINISH_COAT_IOR));
  coatAlbedo = coat * outerAlbedo(wz, coatRoot, ior);
  const through = ONE - coatAlbedo;
  // Light that turns back under the coat meets the base again: dark bases look darker (OpenPBR Surface 1.1, coat darkening).
  const darkening = coat * get(FINISH_COAT_DARKENING);
  const rough = ONE + metal * (get(FINISH_ROUGHNESS) - 1);
  const turned = ONE - (ONE - outerMean(0, ior)) / (ior * ior);
  const straight = fresnelDielectric(wz, ior);
  const inner = straight + (turned - straight) * rough;
  underR *= through * (ONE - darkening + (darkening * (ONE - inner)) / (ONE - r * inner));
  underG *= through * (ONE - darkening + (darkening * (ONE - inner)) / (ONE - g * inner));
  underB *= through * (ONE - darkening + (darkening * (ONE - inner)) / (ONE - b * inner));
  coatTinted = get(FINISH_COAT_COLOR) < 1 || get(FINISH_COAT_COLOR + 4) < 1 || get(FINISH_COAT_COLOR + 8) < 1;
  if (coatTinted) {
    underR *= coatTint(wz, 0);
    underG *= coatTint(wz, 4);
    underB *= coatTint(wz, 8);
  }
}

/** What a coat's colour leaves on one way through it: the colour is for straight in and out again. */
function coatTint(cosine: f32, channel: i32): f32 {
  if (!coatTinted) return 1;
  const color = max<f32>(1e-4, get(FINISH_COAT_COLOR + channel));
  const ior = get(FINISH_COAT_IOR);
  const bent = sqrt<f32>(max<f32>(0.01, ONE - (ONE - cosine * cosine) / (ior * ior)));
  return ONE - coatWeight + coatWeight * Mathf.pow(color, <f32>0.5 / bent);
}

/** Is there nothing here that a light could be sampled for? */
export function finishIsSmoothGlass(): bool {
  return smooth && chooseGlass > 0.999;
}

/** Is all that comes from here spread widely, so that a fresh choice of direction is worth a guess at where lamps are? */
export function finishIsWide(): bool {
  return chooseDiffuse + chooseSubsurface + chooseFuzz > 0.3 || root > 0.5;
}

/** Does light that passes this surface take its wavelength apart? */
export function finishDisperses(): bool {
  return chooseGlass > 0 && !thin && get(FINISH_CAUCHY) > 0;
}

// Reflectance of the clear surface by channel, and the chance with which it is chosen.
let shineR: f32 = 0;
let shineG: f32 = 0;
let shineB: f32 = 0;
let shineChance: f32 = 0;
function shine(cosine: f32): void {
  const f = fresnelDielectric(cosine, etaShine);
  shineR = f;
  shineG = f;
  shineB = f;
  const film = get(FINISH_FILM);
  if (film > 0 && (!fromInside || thin)) {
    fresnelFilm(cosine, get(FINISH_FILM_IOR), get(FINISH_FILM_THICKNESS), etaShine);
    shineR += film * (fresnelR - f);
    shineG += film * (fresnelG - f);
    shineB += film * (fresnelB - f);
  }
}

/** The same of glass: a thin wall adds what bounces between its two sides. */
function glassShine(cosine: f32): void {
  if (etaBend < 1 && ONE - (ONE - cosine * cosine) / (etaBend * etaBend) <= 0) {
    shineR = 1;
    shineG = 1;
    shineB = 1;
    shineChance = 1;
    return;
  }
  shine(cosine);
  if (thin) {
    shineR = (TWO * shineR) / (ONE + shineR);
    shineG = (TWO * shineG) / (ONE + shineG);
    shineB = (TWO * shineB) / (ONE + shineB);
  }
  shineChance = (shineR + shineG + shineB) * <f32>0.33333334;
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
  const r = get(FINISH_BASE),
    g = get(FINISH_BASE + 4),
    b = get(FINISH_BASE + 8);
  let hx = wx + ix,
    hy = wy + iy,
    hz = wz + iz;
  const half = ONE / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
  hx *= half;
  hy *= half;
  hz *= half;
  const oh = min<f32>(1, wx * hx + wy * hy + wz * hz);
  let cr = underR,
    cg = underG,
    cb = underB;
  if (coatTinted) {
    cr *= coatTint(iz, 0);
    cg *= coatTint(iz, 4);
    cb *= coatTint(iz, 8);
  }
  const sr = get(FINISH_SPECULAR_COLOR),
    sg = get(FINISH_SPECULAR_COLOR + 4),
    sb = get(FINISH_SPECULAR_COLOR + 8);
  if (chooseMetal > 0) {
    const f = metal * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay);
    scatterPdf += chooseMetal * lobePdf;
    fresnelMetal(oh, r, g, b, sr, sg, sb);
    let fr = fresnelR,
      fg = fresnelG,
      fb = fresnelB;
    const film = get(FINISH_FILM);
    if (film > 0) {
      // The metal below the film is taken for the clear medium that reflects as much.
      const base = sqrt<f32>(min<f32>(0.97, max(r, max(g, b))));
      fresnelFilm(oh, get(FINISH_FILM_IOR), get(FINISH_FILM_THICKNESS), (ONE + base) / (ONE - base));
      const most = ONE / max<f32>(0.05, max(r, max(g, b)));
      fr += film * (min<f32>(1, fresnelR * r * most) - fr);
      fg += film * (min<f32>(1, fresnelG * g * most) - fg);
      fb += film * (min<f32>(1, fresnelB * b * most) - fb);
    }
    const weight = get(FINISH_SPECULAR);
    const lost = ONE - metalMean(root);
    const more: f32 =
      lost > 1e-4
        ? (metal *
            (ONE - metalAlbedo(wz, towards(wx, wy, ax, ay, root))) *
            (ONE - metalAlbedo(iz, towards(ix, iy, ax, ay, root))) *
            iz *
            INV_PI) /
          lost
        : 0;
    scatterR += weight * cr * (f * fr + more * scatteredAgain(r, sr, lost));
    scatterG += weight * cg * (f * fg + more * scatteredAgain(g, sg, lost));
    scatterB += weight * cb * (f * fb + more * scatteredAgain(b, sb, lost));
  }
  if (chooseGlass > 0 && !smooth) {
    glassShine(oh);
    const f = (glass * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay)) / lossOfGlass();
    scatterR += f * cr * shineR * sr;
    scatterG += f * cg * shineG * sg;
    scatterB += f * cb * shineB * sb;
    scatterPdf += chooseGlass * shineChance * lobePdf;
  }
  const opaque = diffuse + subsurface;
  if (opaque > 0) {
    if (shines) {
      shine(oh);
      const f = opaque * reflectLobe(wz, shadow, ix, iy, iz, hx, hy, hz, ax, ay);
      scatterR += f * cr * shineR * sr;
      scatterG += f * cg * shineG * sg;
      scatterB += f * cb * shineB * sb;
      scatterPdf += chooseSpecular * lobePdf;
    }
    // Diffuse light enters and leaves through the same surface.
    const passed = (ONE - shineOut) * leaving(ix, iy, iz) * iz * INV_PI;
    if (diffuse > 0) {
      const rough = get(FINISH_DIFFUSE_ROUGHNESS);
      if (rough > 0) openRoughDiffuse(rough, iz, wx * ix + wy * iy);
      scatterR += diffuse * passed * cr * (rough > 0 ? roughDiffuse(r) : r);
      scatterG += diffuse * passed * cg * (rough > 0 ? roughDiffuse(g) : g);
      scatterB += diffuse * passed * cb * (rough > 0 ? roughDiffuse(b) : b);
      scatterPdf += chooseDiffuse * iz * INV_PI;
    }
    if (subsurface > 0 && thin) {
      const back = <f32>0.5 * (ONE - get(FINISH_SUBSURFACE_ANISOTROPY));
      scatterR += subsurface * back * passed * cr * get(FINISH_SUBSURFACE_COLOR);
      scatterG += subsurface * back * passed * cg * get(FINISH_SUBSURFACE_COLOR + 4);
      scatterB += subsurface * back * passed * cb * get(FINISH_SUBSURFACE_COLOR + 8);
      scatterPdf += chooseSubsurface * back * iz * INV_PI;
    }
  }
  if (chooseCoat > 0) {
    const f =
      underFuzz *
      coatWeight *
      reflectLobe(wz, coatShadow, ix, iy, iz, hx, hy, hz, coatAx, coatAy) *
      fresnelDielectric(oh, get(FINISH_COAT_IOR));
    scatterR += f;
    scatterG += f;
    scatterB += f;
    scatterPdf += chooseCoat * lobePdf;
  }
  if (chooseFuzz > 0) {
    const f = get(FINISH_FUZZ) * fuzzDistribution(hz, get(FINISH_FUZZ_ROUGHNESS)) * fuzzVisibility(iz, wz) * iz;
    scatterR += f * get(FINISH_FUZZ_COLOR);
    scatterG += f * get(FINISH_FUZZ_COLOR + 4);
    scatterB += f * get(FINISH_FUZZ_COLOR + 8);
    scatterPdf += chooseFuzz * iz * INV_PI;
  }
}

/** Share of light from below that gets out under a cosine, so that in and out together lose nothing. */
function leaving(ix: f32, iy: f32, iz: f32): f32 {
  if (!shines) return 1;
  // Of even lobes the surface that is open looks the same from everywhere.
  if (ax !== ay) openOuter(towards(ix, iy, ax, ay, root), etaShine);
  const taken = min<f32>(1, shineFilm * outerAlbedoThere(iz));
  return (ONE - taken) / max<f32>(0.01, ONE - shineMean);
}

/** Colour of what a metal's facets reflect more than once. */
function scatteredAgain(base: f32, tint: f32, lost: f32): f32 {
  // Mean of the reflectance over all angles; the tint at 82 degrees weighs a tenth.
  const mean = (base + (ONE - base) / 21) * (ONE - <f32>0.06 * (ONE - tint));
  return (mean * mean * (ONE - lost)) / max<f32>(1e-3, ONE - mean * lost);
}

function lossOfGlass(): f32 {
  return thin ? ONE : max<f32>(0.2, glassAlbedo(wz, root, etaShine));
}

// Rough diffuse surfaces (Portsmouth, Kutz and Hill, EON: A practical energy-preserving rough diffuse BRDF, 2024).
let roughSingle: f32 = 0;
let roughMore: f32 = 0;
let roughMean: f32 = 0;
function openRoughDiffuse(rough: f32, iz: f32, across: f32): void {
  const scale = ONE / (ONE + <f32>0.2877934 * rough);
  const slope: f32 = across > 0 ? across / max(iz, wz) : across;
  roughSingle = scale * (ONE + rough * slope);
  const lost = max<f32>(1e-5, ONE - scale * (ONE + <f32>0.072488 * rough));
  roughMean = ONE - lost;
  roughMore =
    (max<f32>(1e-5, ONE - roughAlbedo(wz, rough, scale)) * max<f32>(1e-5, ONE - roughAlbedo(iz, rough, scale))) / lost;
}

function roughAlbedo(cosine: f32, rough: f32, scale: f32): f32 {
  const c = ONE - cosine;
  return (
    scale *
    (ONE + rough * c * (<f32>0.0571085289 + c * (<f32>0.491881867 + c * (<f32>-0.332181442 + c * <f32>0.0714429953))))
  );
}

/** Colour of the rough diffuse surface: `base` where the surface is smooth. */
function roughDiffuse(base: f32): f32 {
  return base * roughSingle + ((base * base * roughMean) / (ONE - base * (ONE - roughMean))) * roughMore;
}

function evaluateTransmission(ix: f32, iy: f32, iz: f32): void {
  if (thin && subsurface > 0) {
    const ahead = <f32>0.5 * (ONE + get(FINISH_SUBSURFACE_ANISOTROPY));
    const f = subsurface * ahead * (ONE - shineOut) * leaving(ix, iy, -iz) * -iz * INV_PI;
    scatterR = f * underR * get(FINISH_SUBSURFACE_COLOR);
    scatterG = f * underG * get(FINISH_SUBSURFACE_COLOR + 4);
    scatterB = f * underB * get(FINISH_SUBSURFACE_COLOR + 8);
    scatterPdf = chooseSubsurface * ahead * -iz * INV_PI;
  }
  if (chooseGlass <= 0 || smooth) return;
  let value: f32 = 0;
  if (thin) {
    // A rough thin wall scatters as its reflection lobe turned to the far side.
    let hx = wx + ix,
      hy = wy + iy,
      hz = wz - iz;
    const half = ONE / sqrt<f32>(max<f32>(1e-20, hx * hx + hy * hy + hz * hz));
    hx *= half;
    hy *= half;
    hz *= half;
    glassShine(min<f32>(1, wx * hx + wy * hy + wz * hz));
    value = reflectLobe(wz, shadow, ix, iy, -iz, hx, hy, hz, ax, ay);
    scatterPdf += chooseGlass * (ONE - shineChance) * lobePdf;
  } else {
    const eta = etaBend;
    let hx = -(wx + eta * ix),
      hy = -(wy + eta * iy),
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
    scatterPdf += (chooseGlass * (ONE - shineChance) * d * oh * jacobian) / ((ONE + lo) * wz);
  }
  value *= glass;
  scatterR += value * (ONE - shineR) * underR * tint(0);
  scatterG += value * (ONE - shineG) * underG * tint(4);
  scatterB += value * (ONE - shineB) * underB * tint(8);
}

function tint(offset: i32): f32 {
  // A solid is tinted once, as light enters; what leaves was tinted already.
  return fromInside && !thin ? 1 : get(FINISH_TINT + offset);
}

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

/** Sets what a point in space scatters instead of a surface. */
export function evaluatePhase(r: f32, g: f32, b: f32): void {
  scatterR = r;
  scatterG = g;
  scatterB = b;
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
