// Fills pixels of the film.

import { FILM_FLOATS, SCENE_FILM, SCENE_SAMPLES, SCENE_SEED, SCENE_WIDTH } from './layout';
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

/** Renders the pixels [x0, x1) × [y0, y1) with all their samples. Every pixel depends on nothing but the scene and its place. */
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
  let r: f32 = 0, g: f32 = 0, b: f32 = 0, alpha: f32 = 0;
  let nx: f32 = 0, ny: f32 = 0, nz: f32 = 0, depth: f32 = 0, met: f32 = 0;
  let ar: f32 = 0, ag: f32 = 0, ab: f32 = 0;
  let part: u32 = 0;
  for (let s: u32 = 0; s < samples; s++) {
    startSample(<u32>x, <u32>y, seed, s);
    startRay(scene, x, y);
    tracePath(scene);
    r += pathR;
    g += pathG;
    b += pathB;
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
  const inv = <f32>1 / <f32>samples;
  store<f32>(pixel, r * inv);
  store<f32>(pixel, g * inv, 4);
  store<f32>(pixel, b * inv, 8);
  store<f32>(pixel, alpha * inv, 12);
  store<f32>(pixel, nx * inv, 16);
  store<f32>(pixel, ny * inv, 20);
  store<f32>(pixel, nz * inv, 24);
  store<f32>(pixel, met > 0 ? depth / met : 0, 28);
  store<f32>(pixel, ar * inv, 32);
  store<f32>(pixel, ag * inv, 36);
  store<f32>(pixel, ab * inv, 40);
  store<u32>(pixel, part, 44);
}
