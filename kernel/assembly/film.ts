// Fills pixels of the film.

import { startRay } from './camera';
import { useEnergyTables } from './energy';
import {
  BUCKETS,
  FILM_AXIS,
  FILM_BUCKETS,
  FILM_FLOATS,
  FILM_GUIDE_SQUARES,
  FILM_MET,
  FILM_PART,
  FILM_SAMPLES,
  FILM_SQUARES,
  LAYER_BEHIND,
  LAYER_EMISSION,
  LAYER_LIGHTS,
  LAYER_MATTES,
  LAYER_MOTION,
  LAYER_OCCLUSION,
  LAYER_POSITION,
  LAYER_SHADOW,
  MATTE_RANKS,
  SCENE_ENERGY,
  SCENE_FILM,
  SCENE_GROUPS,
  SCENE_LAYERS,
  SCENE_PASS,
  SCENE_PIXEL,
  SCENE_SAMPLES,
  SCENE_SAMPLE_BITS,
  SCENE_SEED,
  SCENE_SIZE,
  SCENE_SLICES,
  SCENE_WIDTH,
} from './layout';
import { closePlace } from './light';
import { openShutter } from './motion';
import {
  pathAlbedoB,
  pathAlbedoG,
  pathAlbedoR,
  pathAlpha,
  pathAxis,
  pathB,
  pathBehindB,
  pathBehindG,
  pathBehindR,
  pathCover,
  pathDepth,
  pathEmissionB,
  pathEmissionG,
  pathEmissionR,
  pathFinishHash,
  pathG,
  pathLit,
  pathMotionX,
  pathMotionY,
  pathNormalX,
  pathNormalY,
  pathNormalZ,
  pathOpenness,
  pathPart,
  pathPartHash,
  pathR,
  pathUnshaded,
  pathX,
  pathY,
  pathZ,
} from './path/outputs';
import { tracePath } from './path/follow';
import { draw2, drawX, drawY, startSample } from './sampler';

let groups: usize = 0;

/** Where this worker's paths leave the light of each group. */
export function setFilmScratch(at: usize): void {
  groups = at;
}

/**
 * Adds SCENE_PASS samples to those that the pixels [x0, x1) × [y0, y1) have, up to SCENE_SAMPLES. Every pixel depends on nothing
 * but the scene and its place, and samples added in several passes give the same sums as in one. With a mask of one byte a
 * pixel, a pixel gets them as many times as its byte says.
 */
export function renderTile(scene: usize, x0: i32, y0: i32, x1: i32, y1: i32, mask: usize): void {
  useEnergyTables(load<u32>(scene, SCENE_ENERGY));
  closePlace();
  const film = <usize>load<u32>(scene, SCENE_FILM);
  const width = load<i32>(scene, SCENE_WIDTH);
  const size = <usize>load<u32>(scene, SCENE_PIXEL) * 4;
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const times: u32 = mask !== 0 ? load<u8>(mask + <usize>(y * width + x)) : 1;
      if (times !== 0) renderPixel(scene, x, y, times, film + <usize>(y * width + x) * size);
    }
  }
}

function accumulate(at: usize, value: f32): void {
  store<f32>(at, load<f32>(at) + value);
}

function renderPixel(scene: usize, x: i32, y: i32, times: u32, pixel: usize): void {
  // A pixel goes on in its sequence where it stopped, whichever passes left it out: the beginning of a sequence is spread best.
  const first = <u32>load<f32>(pixel, FILM_SAMPLES * 4);
  const end = min(load<u32>(scene, SCENE_SAMPLES), first + times * load<u32>(scene, SCENE_PASS));
  const seed = load<u32>(scene, SCENE_SEED),
    bits = load<u32>(scene, SCENE_SAMPLE_BITS);
  const slices = load<u32>(scene, SCENE_SLICES);
  const layers = load<u32>(scene, SCENE_LAYERS);
  for (let s = first; s < end; s++) {
    startSample(<u32>x, <u32>y, seed, s, bits);
    draw2();
    const time = drawX * <f32>slices;
    const slice = min(slices - 1, <u32>time);
    const spare = drawY;
    const now = scene + <usize>slice * SCENE_SIZE;
    openShutter(time - <f32>slice);
    startRay(now, x, y);
    tracePath(now, spare);
    accumulate(pixel, pathR);
    accumulate(pixel + 4, pathG);
    accumulate(pixel + 8, pathB);
    accumulate(pixel + 12, pathAlpha);
    accumulate(pixel + 16, pathNormalX);
    accumulate(pixel + 20, pathNormalY);
    accumulate(pixel + 24, pathNormalZ);
    accumulate(pixel + 32, pathAlbedoR);
    accumulate(pixel + 36, pathAlbedoG);
    accumulate(pixel + 40, pathAlbedoB);
    const luminance = <f32>0.2126 * pathR + <f32>0.7152 * pathG + <f32>0.0722 * pathB;
    accumulate(pixel + FILM_SQUARES * 4, luminance * luminance);
    accumulate(pixel + FILM_SAMPLES * 4, 1);
    accumulate(pixel + FILM_BUCKETS * 4 + ((<usize>(s % BUCKETS)) << 2), luminance);
    const guides = pixel + FILM_GUIDE_SQUARES * 4;
    accumulate(guides, pathNormalX * pathNormalX + pathNormalY * pathNormalY + pathNormalZ * pathNormalZ);
    accumulate(guides + 4, pathAlbedoR * pathAlbedoR + pathAlbedoG * pathAlbedoG + pathAlbedoB * pathAlbedoB);
    if (pathPart !== 0) {
      accumulate(pixel + 28, pathDepth);
      accumulate(guides + 8, pathDepth * pathDepth);
      accumulate(pixel + FILM_AXIS * 4, pathAxis);
      accumulate(pixel + FILM_MET * 4, 1);
      if (load<u32>(pixel, FILM_PART * 4) === 0) store<u32>(pixel, pathPart, FILM_PART * 4);
    }
    if (layers !== 0) addLayers(scene, layers, pixel + FILM_FLOATS * 4);
  }
}

function addLayers(scene: usize, layers: u32, from: usize): void {
  let at = from;
  if (layers & LAYER_POSITION) {
    if (pathPart !== 0) {
      accumulate(at, pathX);
      accumulate(at + 4, pathY);
      accumulate(at + 8, pathZ);
    }
    at += 12;
  }
  if (layers & LAYER_MOTION) {
    accumulate(at, pathMotionX);
    accumulate(at + 4, pathMotionY);
    at += 8;
  }
  if (layers & LAYER_EMISSION) {
    accumulate(at, pathEmissionR);
    accumulate(at + 4, pathEmissionG);
    accumulate(at + 8, pathEmissionB);
    at += 12;
  }
  if (layers & LAYER_SHADOW) {
    accumulate(at, pathLit);
    accumulate(at + 4, pathUnshaded);
    at += 8;
  }
  if (layers & LAYER_OCCLUSION) {
    accumulate(at, pathOpenness);
    at += 4;
  }
  if (layers & LAYER_MATTES) {
    if (pathPart !== 0) {
      addMatte(at, pathPartHash);
      addMatte(at + MATTE_RANKS * 8, pathFinishHash);
    }
    at += MATTE_RANKS * 16;
  }
  if (layers & LAYER_BEHIND) {
    accumulate(at, pathBehindR);
    accumulate(at + 4, pathBehindG);
    accumulate(at + 8, pathBehindB);
    accumulate(at + 12, pathCover);
    at += 16;
  }
  if (layers & LAYER_LIGHTS) {
    const count = load<u32>(scene, SCENE_GROUPS) * 3;
    for (let k: u32 = 0; k < count; k++) accumulate(at + ((<usize>k) << 2), load<f32>(groups + ((<usize>k) << 2)));
  }
}

/** Adds a sample to the rank of its name; a pixel that shows more names than it has ranks forgets the rest. */
function addMatte(ranks: usize, name: u32): void {
  for (let k = 0; k < MATTE_RANKS; k++) {
    const at = ranks + ((<usize>k) << 3);
    const known = load<u32>(at);
    if (known === name || load<f32>(at, 4) === 0) {
      store<u32>(at, name);
      accumulate(at + 4, 1);
      return;
    }
  }
}
