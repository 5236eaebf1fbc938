// Metals: facets tinted by F82, a film on top, and what is reflected between facets more than once (Kulla and Conty, Revisiting
// Physically Based Shading at Imageworks, 2017). `metalR`, G, B are written by `openMetal`.

import { metalMean } from '../energy';
import { fresnelB, fresnelFilm, fresnelG, fresnelMetal, fresnelR } from '../fresnel';
import { FINISH_BASE, FINISH_FILM, FINISH_FILM_IOR, FINISH_FILM_THICKNESS, FINISH_SPECULAR_COLOR } from '../layout';
import { get } from './opened';

const ONE: f32 = 1;

/** Reflectance of a facet under the cosine that is open. */
export let metalR: f32 = 0;
export let metalG: f32 = 0;
export let metalB: f32 = 0;

export function openMetal(cosine: f32): void {
  const r = get(FINISH_BASE),
    g = get(FINISH_BASE + 4),
    b = get(FINISH_BASE + 8);
  fresnelMetal(
    cosine,
    r,
    g,
    b,
    get(FINISH_SPECULAR_COLOR),
    get(FINISH_SPECULAR_COLOR + 4),
    get(FINISH_SPECULAR_COLOR + 8),
  );
  metalR = fresnelR;
  metalG = fresnelG;
  metalB = fresnelB;
  const film = get(FINISH_FILM);
  if (!(film > 0)) return;
  // The metal below the film is taken for the clear medium that reflects as much.
  const bright = max(r, max(g, b));
  const base = sqrt<f32>(min<f32>(0.97, bright));
  fresnelFilm(cosine, get(FINISH_FILM_IOR), get(FINISH_FILM_THICKNESS), (ONE + base) / (ONE - base));
  const most = ONE / max<f32>(0.05, bright);
  metalR += film * (min<f32>(1, fresnelR * r * most) - metalR);
  metalG += film * (min<f32>(1, fresnelG * g * most) - metalG);
  metalB += film * (min<f32>(1, fresnelB * b * most) - metalB);
}

/** Share of light that facets of a width reflect between themselves. @param root of the lobe's width */
export function metalLoss(root: f32): f32 {
  return ONE - metalMean(root);
}

/** Colour of what a metal's facets reflect more than once. */
export function scatteredAgain(base: f32, tint: f32, lost: f32): f32 {
  // Mean of the reflectance over all angles; the tint at 82 degrees weighs a tenth.
  const mean = (base + (ONE - base) / 21) * (ONE - <f32>0.06 * (ONE - tint));
  return (mean * mean * (ONE - lost)) / max<f32>(1e-3, ONE - mean * lost);
}
