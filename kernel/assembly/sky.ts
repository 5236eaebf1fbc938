// Surroundings: an equirectangular picture about the scene, looked up and chosen from by brightness.

import { arc, arcOfCosine, turn, turnCosine, turnSine } from './angle';
import {
  SCENE_BEHIND_COLOR,
  SCENE_BEHIND_PICTURE,
  SCENE_BEHIND_TURN,
  SCENE_SKY,
  SCENE_SKY_GAIN,
  SCENE_SKY_TILTED,
  SCENE_SKY_TILT_COSINE,
  SCENE_SKY_TILT_SINE,
  SCENE_SKY_TURN,
  SCENE_SKY_TURN_COSINE,
  SCENE_SKY_TURN_SINE,
  SKY_COLUMNS,
  SKY_HEIGHT,
  SKY_MEAN,
  SKY_PIXELS,
  SKY_ROWS,
  SKY_WEIGHT,
  SKY_WIDTH,
} from './layout';

const PI: f32 = 3.14159265358979;
/** Turns in a radian. */
const PER_TURN: f32 = 0.159154943092;
/** Density of an even choice from the sphere. */
const EVEN: f32 = 0.0795774715459;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Radiance looked up last. */
export let skyR: f32 = 0;
export let skyG: f32 = 0;
export let skyB: f32 = 0;
/** Direction chosen last, and the density over solid angle of it or of the one met last. */
export let skyX: f32 = 0;
export let skyY: f32 = 0;
export let skyZ: f32 = 0;
export let skyChosenPdf: f32 = 0;

function skyTexel(sky: usize, x: i32, y: i32): usize {
  const width = load<i32>(sky, SKY_WIDTH);
  const height = load<i32>(sky, SKY_HEIGHT);
  const cx = x < 0 ? x + width : x >= width ? x - width : x;
  const cy = max<i32>(0, min<i32>(height - 1, y));
  return <usize>load<u32>(sky, SKY_PIXELS) + <usize>(cy * width + cx) * 12;
}

// A direction on the picture, 0 to 1 each way.
let skyU: f32 = 0;
let skyV: f32 = 0;
/** Cosine from the top of the picture. */
let skyHeight: f32 = 0;
function locate(turnedBy: f32, dx: f32, dy: f32, dz: f32): void {
  skyHeight = dy;
  // Seen from inside, so that writing reads (OpenEXR, Technical Introduction: latitude-longitude maps).
  const u = <f32>0.5 - (arc(dx, dz) - turnedBy) * PER_TURN;
  skyU = u - floor(u);
  skyV = arcOfCosine(dy) * (TWO * PER_TURN);
}

/** A direction of the world on surroundings that are first tilted about x and then turned about the vertical. */
function locateTilted(scene: usize, dx: f32, dy: f32, dz: f32): void {
  const turnedC = load<f32>(scene, SCENE_SKY_TURN_COSINE),
    turnedS = load<f32>(scene, SCENE_SKY_TURN_SINE);
  const tiltedC = load<f32>(scene, SCENE_SKY_TILT_COSINE),
    tiltedS = load<f32>(scene, SCENE_SKY_TILT_SINE);
  const x = turnedC * dx - turnedS * dz,
    z = turnedS * dx + turnedC * dz;
  locate(0, x, max<f32>(-1, min<f32>(ONE, tiltedC * dy + tiltedS * z)), tiltedC * z - tiltedS * dy);
}

/** Radiance at a place of the picture, blended between pixels and multiplied by a colour. */
function radianceAt(sky: usize, gain: usize, u: f32, v: f32): void {
  const x = u * <f32>load<i32>(sky, SKY_WIDTH) - 0.5,
    y = v * <f32>load<i32>(sky, SKY_HEIGHT) - 0.5;
  const fx0 = floor(x),
    fy0 = floor(y);
  const ix = <i32>fx0,
    iy = <i32>fy0;
  const fx = x - fx0,
    fy = y - fy0;
  const a = skyTexel(sky, ix, iy),
    b = skyTexel(sky, ix + 1, iy),
    c = skyTexel(sky, ix, iy + 1),
    d = skyTexel(sky, ix + 1, iy + 1);
  const wa = (ONE - fx) * (ONE - fy),
    wb = fx * (ONE - fy),
    wc = (ONE - fx) * fy,
    wd = fx * fy;
  skyR = load<f32>(gain) * (wa * load<f32>(a) + wb * load<f32>(b) + wc * load<f32>(c) + wd * load<f32>(d));
  skyG =
    load<f32>(gain, 4) * (wa * load<f32>(a, 4) + wb * load<f32>(b, 4) + wc * load<f32>(c, 4) + wd * load<f32>(d, 4));
  skyB =
    load<f32>(gain, 8) * (wa * load<f32>(a, 8) + wb * load<f32>(b, 8) + wc * load<f32>(c, 8) + wd * load<f32>(d, 8));
}

/** Radiance of surroundings that are one colour. */
function plainRadiance(scene: usize): void {
  skyR = load<f32>(scene, SCENE_SKY_GAIN);
  skyG = load<f32>(scene, SCENE_SKY_GAIN + 4);
  skyB = load<f32>(scene, SCENE_SKY_GAIN + 8);
  skyChosenPdf = EVEN;
}

/** What a ray towards the surroundings meets: skyR, G, B, and the density of `sampleSky` for it into skyChosenPdf. */
export function meetSky(scene: usize, dx: f32, dy: f32, dz: f32): void {
  const sky = <usize>load<u32>(scene, SCENE_SKY);
  const width = load<i32>(sky, SKY_WIDTH),
    height = load<i32>(sky, SKY_HEIGHT);
  if (width === 1) {
    plainRadiance(scene);
    return;
  }
  if (load<u32>(scene, SCENE_SKY_TILTED)) locateTilted(scene, dx, dy, dz);
  else locate(load<f32>(scene, SCENE_SKY_TURN), dx, dy, dz);
  radianceAt(sky, scene + SCENE_SKY_GAIN, skyU, skyV);
  const x = min<i32>(width - 1, <i32>(skyU * <f32>width)),
    y = min<i32>(height - 1, <i32>(skyV * <f32>height));
  const rows = <usize>load<u32>(sky, SKY_ROWS) + ((<usize>y) << 2);
  const columns = <usize>load<u32>(sky, SKY_COLUMNS) + <usize>(y * (width + 1) + x) * 4;
  const sine = sqrt<f32>(max<f32>(1e-12, ONE - skyHeight * skyHeight));
  skyChosenPdf =
    ((load<f32>(rows, 4) - load<f32>(rows)) * (load<f32>(columns, 4) - load<f32>(columns)) * <f32>(width * height)) /
    (TWO * PI * PI * sine);
}

/** Radiance of the picture all around that is seen behind, without lighting anything. */
export function meetBehind(scene: usize, dx: f32, dy: f32, dz: f32): void {
  locate(load<f32>(scene, SCENE_BEHIND_TURN), dx, dy, dz);
  radianceAt(<usize>load<u32>(scene, SCENE_BEHIND_PICTURE), scene + SCENE_BEHIND_COLOR, skyU, skyV);
}

/** Largest entry not above `u` in a rising table of `count` + 1 entries from 0 to 1. */
function findStep(table: usize, count: i32, u: f32): i32 {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (load<f32>(table + ((<usize>middle) << 2)) <= u) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Chooses a direction by brightness: skyX, Y, Z, its radiance and its density. */
export function sampleSky(scene: usize, u1: f32, u2: f32): bool {
  const sky = <usize>load<u32>(scene, SCENE_SKY);
  const width = load<i32>(sky, SKY_WIDTH),
    height = load<i32>(sky, SKY_HEIGHT);
  if (width === 1) {
    plainRadiance(scene);
    skyY = ONE - TWO * u1;
    const flat = sqrt<f32>(max<f32>(0, ONE - skyY * skyY));
    turn(u2);
    skyX = flat * turnSine;
    skyZ = flat * turnCosine;
    return true;
  }
  const rows = <usize>load<u32>(sky, SKY_ROWS);
  const y = findStep(rows, height, u1);
  const r0 = load<f32>(rows + ((<usize>y) << 2)),
    r1 = load<f32>(rows + ((<usize>y) << 2), 4);
  const columns = <usize>load<u32>(sky, SKY_COLUMNS) + <usize>(y * (width + 1)) * 4;
  const x = findStep(columns, width, u2);
  const c0 = load<f32>(columns + ((<usize>x) << 2)),
    c1 = load<f32>(columns + ((<usize>x) << 2), 4);
  if (!(r1 > r0 && c1 > c0)) return false;
  const v = (<f32>y + (u1 - r0) / (r1 - r0)) / <f32>height;
  const u = (<f32>x + (u2 - c0) / (c1 - c0)) / <f32>width;
  turn(v * <f32>0.5);
  const sine = turnSine,
    cosine = turnCosine;
  if (sine < 1e-6) return false;
  if (load<u32>(scene, SCENE_SKY_TILTED)) {
    turn(<f32>0.5 - u);
    const turnedC = load<f32>(scene, SCENE_SKY_TURN_COSINE),
      turnedS = load<f32>(scene, SCENE_SKY_TURN_SINE);
    const tiltedC = load<f32>(scene, SCENE_SKY_TILT_COSINE),
      tiltedS = load<f32>(scene, SCENE_SKY_TILT_SINE);
    const x = sine * turnSine,
      z = sine * turnCosine * tiltedC + cosine * tiltedS;
    skyX = turnedC * x + turnedS * z;
    skyY = tiltedC * cosine - tiltedS * sine * turnCosine;
    skyZ = turnedC * z - turnedS * x;
  } else {
    turn(<f32>0.5 - u + load<f32>(scene, SCENE_SKY_TURN) * PER_TURN);
    skyX = sine * turnSine;
    skyY = cosine;
    skyZ = sine * turnCosine;
  }
  skyChosenPdf = ((r1 - r0) * (c1 - c0) * <f32>(width * height)) / (TWO * PI * PI * sine);
  radianceAt(sky, scene + SCENE_SKY_GAIN, u, v);
  return skyChosenPdf > 0;
}

function luminance(texel: usize): f32 {
  return <f32>0.2126 * load<f32>(texel) + <f32>0.7152 * load<f32>(texel, 4) + <f32>0.0722 * load<f32>(texel, 8);
}

/**
 * Fills the tables of surroundings. A pixel's share is the mean luminance of its neighbourhood, so that blended pixels beside
 * a bright one are chosen too.
 */
export function prepareSky(sky: usize): void {
  const width = load<i32>(sky, SKY_WIDTH),
    height = load<i32>(sky, SKY_HEIGHT);
  const rows = <usize>load<u32>(sky, SKY_ROWS),
    columns = <usize>load<u32>(sky, SKY_COLUMNS);
  let total: f64 = 0;
  let solid: f64 = 0;
  let light: f64 = 0;
  store<f32>(rows, 0);
  for (let y = 0; y < height; y++) {
    const sine = Mathf.sin((PI * (<f32>y + 0.5)) / <f32>height);
    const row = columns + <usize>(y * (width + 1)) * 4;
    let sum: f64 = 0;
    store<f32>(row, 0);
    for (let x = 0; x < width; x++) {
      let l: f32 = 0;
      for (let j = -1; j <= 1; j++) for (let i = -1; i <= 1; i++) l += luminance(skyTexel(sky, x + i, y + j));
      sum += <f64>(l / 9) + 1e-9;
      store<f32>(row + ((<usize>(x + 1)) << 2), <f32>sum);
      light += <f64>(luminance(skyTexel(sky, x, y)) * sine);
      solid += <f64>sine;
    }
    for (let x = 1; x <= width; x++) {
      const cell = row + ((<usize>x) << 2);
      store<f32>(cell, x === width ? 1 : <f32>(<f64>load<f32>(cell) / sum));
    }
    total += sum * <f64>sine;
    store<f32>(rows + ((<usize>(y + 1)) << 2), <f32>total);
  }
  for (let y = 1; y <= height; y++) {
    const cell = rows + ((<usize>y) << 2);
    store<f32>(cell, y === height ? 1 : <f32>(<f64>load<f32>(cell) / total));
  }
  store<f32>(sky, <f32>total, SKY_WEIGHT);
  store<f32>(sky, <f32>(light / solid), SKY_MEAN);
}
