// The clear boundary of a finish: what it reflects, alone or under a thin film, and of a thin wall with all that bounces between
// its sides. The boundary is set by `openClear`; `shineR`, G, B and `shineChance` are written by `shine` and `glassShine`.

import { fresnelB, fresnelDielectric, fresnelFilm, fresnelG, fresnelR } from '../fresnel';
import { FINISH_FILM, FINISH_FILM_IOR, FINISH_FILM_THICKNESS } from '../layout';

const ONE: f32 = 1;
const TWO: f32 = 2;

let at: usize = 0;
let thin: bool = false;
let film: f32 = 0;

/** Index behind the surface over the index before it, for bending rays and for reflecting them. */
export let etaBend: f32 = 0;
export let etaShine: f32 = 0;

/** Reflectance by channel, and the chance with which it is chosen over passing through. */
export let shineR: f32 = 0;
export let shineG: f32 = 0;
export let shineB: f32 = 0;
export let shineChance: f32 = 0;

/** @param filmed whether the side that is seen bears the finish's film @param wall the boundary is both sides of a thin wall */
export function openClear(finish: usize, bend: f32, reflect: f32, filmed: bool, wall: bool): void {
  at = finish;
  etaBend = bend;
  etaShine = reflect;
  thin = wall;
  film = filmed ? load<f32>(finish, FINISH_FILM) : 0;
}

/** Reflectance under a cosine. */
export function shine(cosine: f32): void {
  const f = fresnelDielectric(cosine, etaShine);
  shineR = f;
  shineG = f;
  shineB = f;
  if (film <= 0) return;
  fresnelFilm(cosine, load<f32>(at, FINISH_FILM_IOR), load<f32>(at, FINISH_FILM_THICKNESS), etaShine);
  shineR += film * (fresnelR - f);
  shineG += film * (fresnelG - f);
  shineB += film * (fresnelB - f);
}

/** The same of glass: a thin wall adds what bounces between its two sides. */
export function glassShine(cosine: f32): void {
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
