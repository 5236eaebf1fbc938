// Fills pixels of the film.

import { FILM_FLOATS, FILM_MET, FILM_PART, FILM_SQUARES, SCENE_FILM, SCENE_FIRST_SAMPLE, SCENE_SAMPLES, SCENE_SEED, SCENE_WIDTH } from './layout';
import {
  pathAlbedoB,
  pathAlbedoG,
  pathAlbedoR,
  pathAlpha,
  pathB,
  pathDepth,
  pathG,
  pathNormalX,
  pathNormalY,
  pathNormalZ,
  pathPart,
  pathR,
  startRay,
  tracePath,
} from './path';
import { startSample } from './sampler';

/**
 * Adds samples SCENE_FIRST_SAMPLE up to SCENE_SAMPLES to the pixels [x0, x1) × [y0, y1). Every pixel depends on nothing but the
 * scene and its place, and samples added in several passes give the same sums as in one.
 */
export function renderTile(scene: usize, x0: i32, y0: i32, x1: i32, y1: i32): void {
  const film = <usize>load<u32>(scene, SCENE_FILM);
  const width = load<i32>(scene, SCENE_WIDTH);
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) renderPixel(scene, x, y, film + <usize>(y * width + x) * (FILM_FLOATS * 4));
  }
}

function renderPixel(scene: usize, x: i32, y: i32, pixel: usize): void {
  const samples = load<u32>(scene, SCENE_SAMPLES);
  const seed = load<u32>(scene, SCENE_SEED);
  let r = load<f32>(pixel), g = load<f32>(pixel, 4), b = load<f32>(pixel, 8), alpha = load<f32>(pixel, 12);
  let nx = load<f32>(pixel, 16), ny = load<f32>(pixel, 20), nz = load<f32>(pixel, 24);
  let depth = load<f32>(pixel, 28);
  let ar = load<f32>(pixel, 32), ag = load<f32>(pixel, 36), ab = load<f32>(pixel, 40);
  let part = load<u32>(pixel, FILM_PART * 4);
  let met = load<f32>(pixel, FILM_MET * 4);
  let squares = load<f32>(pixel, FILM_SQUARES * 4);
  for (let s = load<u32>(scene, SCENE_FIRST_SAMPLE); s < samples; s++) {
    startSample(<u32>x, <u32>y, seed, s);
    startRay(scene, x, y);
    tracePath(scene);
    r += pathR;
    g += pathG;
    b += pathB;
    const luminance = <f32>0.2126 * pathR + <f32>0.7152 * pathG + <f32>0.0722 * pathB;
    squares += luminance * luminance;
    alpha += pathAlpha;
    nx += pathNormalX;
    ny += pathNormalY;
    nz += pathNormalZ;
    ar += pathAlbedoR;
    ag += pathAlbedoG;
    ab += pathAlbedoB;
    if (pathPart != 0) {
      depth += pathDepth;
      met += 1;
      if (part == 0) part = pathPart;
    }
  }
  store<f32>(pixel, r);
  store<f32>(pixel, g, 4);
  store<f32>(pixel, b, 8);
  store<f32>(pixel, alpha, 12);
  store<f32>(pixel, nx, 16);
  store<f32>(pixel, ny, 20);
  store<f32>(pixel, nz, 24);
  store<f32>(pixel, depth, 28);
  store<f32>(pixel, ar, 32);
  store<f32>(pixel, ag, 36);
  store<f32>(pixel, ab, 40);
  store<u32>(pixel, part, FILM_PART * 4);
  store<f32>(pixel, met, FILM_MET * 4);
  store<f32>(pixel, squares, FILM_SQUARES * 4);
}
