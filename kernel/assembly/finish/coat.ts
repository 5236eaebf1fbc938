// The clear or tinted coat on top of a finish. All is written by `openCoat`; `coatWeight` 0 is no coat.

import { outerAlbedo, outerMean } from '../energy';
import { fresnelDielectric } from '../fresnel';
import {
  FINISH_BASE,
  FINISH_COAT_ANISOTROPY,
  FINISH_COAT_COLOR,
  FINISH_COAT_DARKENING,
  FINISH_COAT_IOR,
  FINISH_COAT_ROUGHNESS,
  FINISH_METALNESS,
  FINISH_ROUGHNESS,
} from '../layout';
import { LEAST_ALPHA, narrowAlpha, smithLambda, wideAlpha } from '../microfacet';

const ONE: f32 = 1;

let at: usize = 0;
let tinted: bool = false;

export let coatWeight: f32 = 0;
/** Widths of its lobe along x and y, and shadowing towards the viewer. */
export let coatAx: f32 = 0;
export let coatAy: f32 = 0;
export let coatShadow: f32 = 0;
/** Share of light from the direction of view that it reflects. */
export let coatAlbedo: f32 = 0;
/** What it leaves of the light that what is below sends to the viewer. */
export let belowCoatR: f32 = 1;
export let belowCoatG: f32 = 1;
export let belowCoatB: f32 = 1;

/** @param weight of the coat on the side that is seen @param wx direction towards the viewer */
export function openCoat(finish: usize, weight: f32, wx: f32, wy: f32, wz: f32): void {
  at = finish;
  coatWeight = weight;
  coatAlbedo = 0;
  tinted = false;
  belowCoatR = 1;
  belowCoatG = 1;
  belowCoatB = 1;
  if (!(weight > 0)) return;
  const roughness = load<f32>(finish, FINISH_COAT_ROUGHNESS);
  const alpha = max<f32>(LEAST_ALPHA, roughness * roughness);
  const aspect = ONE - load<f32>(finish, FINISH_COAT_ANISOTROPY);
  coatAx = wideAlpha(alpha, aspect);
  coatAy = narrowAlpha(alpha, aspect);
  coatShadow = smithLambda(wx, wy, wz, coatAx, coatAy);
  const ior = max<f32>(1.0001, load<f32>(finish, FINISH_COAT_IOR));
  coatAlbedo = weight * outerAlbedo(wz, sqrt<f32>(sqrt<f32>(coatAx * coatAy)), ior);
  // Light that turns back under the coat meets the base again: dark bases look darker (OpenPBR Surface 1.1, coat darkening).
  const rough = ONE + load<f32>(finish, FINISH_METALNESS) * (load<f32>(finish, FINISH_ROUGHNESS) - 1);
  const turned = ONE - (ONE - outerMean(0, ior)) / (ior * ior);
  const straight = fresnelDielectric(wz, ior);
  const inner = straight + (turned - straight) * rough;
  const through = ONE - coatAlbedo;
  const darkening = weight * load<f32>(finish, FINISH_COAT_DARKENING);
  belowCoatR = through * darkened(load<f32>(finish, FINISH_BASE), darkening, inner);
  belowCoatG = through * darkened(load<f32>(finish, FINISH_BASE + 4), darkening, inner);
  belowCoatB = through * darkened(load<f32>(finish, FINISH_BASE + 8), darkening, inner);
  tinted =
    load<f32>(finish, FINISH_COAT_COLOR) < 1 ||
    load<f32>(finish, FINISH_COAT_COLOR + 4) < 1 ||
    load<f32>(finish, FINISH_COAT_COLOR + 8) < 1;
  belowCoatR *= coatTint(wz, 0);
  belowCoatG *= coatTint(wz, 4);
  belowCoatB *= coatTint(wz, 8);
}

function darkened(base: f32, darkening: f32, inner: f32): f32 {
  return ONE - darkening + (darkening * (ONE - inner)) / (ONE - base * inner);
}

/** What a coat's colour leaves on one way through it: the colour is for straight in and out again. */
export function coatTint(cosine: f32, channel: i32): f32 {
  if (!tinted) return 1;
  const color = max<f32>(1e-4, load<f32>(at + <usize>channel, FINISH_COAT_COLOR));
  const ior = load<f32>(at, FINISH_COAT_IOR);
  const bent = sqrt<f32>(max<f32>(0.01, ONE - (ONE - cosine * cosine) / (ior * ior)));
  return ONE - coatWeight + coatWeight * Mathf.pow(color, <f32>0.5 / bent);
}
