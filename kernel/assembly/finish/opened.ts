// A finish seen from a direction: what each of its layers leaves to the ones below, and the chances with which they are chosen. After
// the OpenPBR Surface specification 1.1, in a local frame whose z is the shading normal and whose x is the tangent. Layers from the
// top: fuzz, coat, then a mix of metal, glass and an opaque base (specular over diffuse or subsurface). What a layer does not reflect
// reaches the one below, by directional albedo. All is written by `openFinish` alone; evaluate.ts and sample.ts go by it.

import { fuzzAlbedo, openOuter, outerAlbedoThere, outerMean, outerMeanThere } from '../energy';
import { fresnelDielectric, weightedIndex } from '../fresnel';
import {
  FINISH_ANISOTROPY,
  FINISH_BASE,
  FINISH_CAUCHY,
  FINISH_COAT,
  FINISH_COAT_ROUGHNESS,
  FINISH_FILM,
  FINISH_FUZZ,
  FINISH_FUZZ_ROUGHNESS,
  FINISH_IOR,
  FINISH_METALNESS,
  FINISH_ROUGHNESS,
  FINISH_SPECULAR,
  FINISH_SUBSURFACE,
  FINISH_THIN,
  FINISH_TINT,
  FINISH_TRANSMISSION,
} from '../layout';
import { LEAST_ALPHA, narrowAlpha, smithLambda, wideAlpha } from '../microfacet';
import { etaShine, openClear, shine, shineB, shineG, shineR } from './clear';
import { belowCoatB, belowCoatG, belowCoatR, coatAlbedo, openCoat } from './coat';

const ONE: f32 = 1;
const TWO: f32 = 2;
/** Below this roughness a glass surface is treated as perfectly smooth. */
const SMOOTH_ROUGHNESS: f32 = 0.03;

let at: usize = 0;
export let thin: bool = false;
export let smooth: bool = false;
let fromInside: bool = false;
/** Direction towards the viewer. */
export let wx: f32 = 0;
export let wy: f32 = 0;
export let wz: f32 = 0;

/** Widths of the lobes along x and y, and the root of their mean, by which the energy tables go. */
export let ax: f32 = 0;
export let ay: f32 = 0;
export let root: f32 = 0;
/** Shadowing of the lobes towards the viewer. */
export let shadow: f32 = 0;

/** What the layers above leave to metal, glass and base, and fuzz to all below it. */
export let underR: f32 = 0;
export let underG: f32 = 0;
export let underB: f32 = 0;
export let underFuzz: f32 = 0;
/** What the shine takes from light in the direction of view. */
export let shineOut: f32 = 0;
/** The same on average, and how much a film makes of it. */
let shineMean: f32 = 0;
let shineFilm: f32 = 1;
export let shines: bool = false;

/** Shares of the mix. */
export let metal: f32 = 0;
export let glass: f32 = 0;
export let diffuse: f32 = 0;
export let subsurface: f32 = 0;

/** Chances of the lobes; they sum to 1. */
export let chooseFuzz: f32 = 0;
export let chooseCoat: f32 = 0;
export let chooseMetal: f32 = 0;
export let chooseGlass: f32 = 0;
export let chooseSpecular: f32 = 0;
export let chooseDiffuse: f32 = 0;
export let chooseSubsurface: f32 = 0;

/** A float of the finish that is open. */
export function get(offset: i32): f32 {
  return load<f32>(at + <usize>offset);
}

/** Root of the width that the lobes have towards a direction: of even ones the same everywhere. */
export function towards(x: f32, y: f32): f32 {
  if (ax === ay) return root;
  const flat = x * x + y * y;
  if (flat < 1e-9) return root;
  return sqrt<f32>(sqrt<f32>((ax * ax * x * x + ay * ay * y * y) / flat));
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
  const coat: f32 = inside && !thin ? 0 : get(FINISH_COAT);
  const fuzz: f32 = inside && !thin ? 0 : get(FINISH_FUZZ);
  openCoat(finish, coat, wx, wy, wz);
  let roughness = get(FINISH_ROUGHNESS);
  const coatRoughness = get(FINISH_COAT_ROUGHNESS);
  if (coat > 0 && coatRoughness > 0) {
    // A rough coat blurs what is seen through it.
    const r2 = roughness * roughness,
      c2 = coatRoughness * coatRoughness;
    roughness += coat * (min<f32>(1, sqrt<f32>(sqrt<f32>(r2 * r2 + TWO * c2 * c2))) - roughness);
  }
  smooth = roughness < SMOOTH_ROUGHNESS;
  const alpha = max<f32>(LEAST_ALPHA, roughness * roughness);
  const aspect = ONE - get(FINISH_ANISOTROPY);
  ax = wideAlpha(alpha, aspect);
  ay = narrowAlpha(alpha, aspect);
  root = aspect < 1 ? sqrt<f32>(sqrt<f32>((ax * ax + ay * ay) * <f32>0.5)) : sqrt<f32>(alpha);
  shadow = smithLambda(wx, wy, wz, ax, ay);

  // A thin wall has no inside: the same air is on both of its sides.
  const index = indexAt(finish, nanometres);
  let bend = inside && !thin ? surround / index : index / surround;
  if (abs(bend - 1) < 1e-4) bend = 1.0001;
  let reflect = weightedIndex(bend, get(FINISH_SPECULAR));
  if (abs(reflect - 1) < 1e-4) reflect = reflect < 1 ? 0.9999 : 1.0001;
  openClear(finish, bend, reflect, !inside || thin, thin);

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

  underR = underFuzz * belowCoatR;
  underG = underFuzz * belowCoatG;
  underB = underFuzz * belowCoatB;

  const through = underFuzz * (ONE - coatAlbedo);
  const bright = max(r, max(g, b));
  // From within, what is not clear only scatters: the inner shine would leave it less than the tables for the outside tell.
  shines = opaque > 0 && (!inside || thin);
  shineOut = 0;
  shineMean = 0;
  if (shines) {
    openOuter(towards(wx, wy), etaShine);
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

/** Share of light from below that gets out under a cosine, so that in and out together lose nothing. */
export function leaving(ix: f32, iy: f32, iz: f32): f32 {
  if (!shines) return 1;
  // Of even lobes the surface that is open looks the same from everywhere.
  if (ax !== ay) openOuter(towards(ix, iy), etaShine);
  const taken = min<f32>(1, shineFilm * outerAlbedoThere(iz));
  return (ONE - taken) / max<f32>(0.01, ONE - shineMean);
}

/** Colour that glass gives to what passes. */
export function tint(offset: i32): f32 {
  // A solid is tinted once, as light enters; what leaves was tinted already.
  return fromInside && !thin ? 1 : get(FINISH_TINT + offset);
}
