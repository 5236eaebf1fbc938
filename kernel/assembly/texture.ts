// Maps on surfaces: pictures looked up with a level that fits what a pixel covers, multiplied onto a finish.

import { linearFromSrgb8 } from './energy';
import {
  ENCODING_FLOAT,
  ENCODING_SRGB8,
  FINISH_MAP_COUNT,
  FINISH_MAPS,
  FINISH_NORMAL,
  FINISH_SIZE,
  MAP_CHANNEL,
  MAP_COMPONENTS,
  MAP_DATA,
  MAP_KIND,
  MAP_MATRIX,
  MAP_SIZE,
  MAP_STRENGTH,
  MAP_TARGET,
  POINT_COVERED,
  POINT_U,
  POINT_V,
  SOURCE_PICTURE,
  TEXTURE_LEVELS,
  TEXTURE_PIXELS,
} from './layout';

let room: usize = 0;

/** Gives this worker room for one finish. */
export function setTextureScratch(at: usize): void {
  room = at;
}

/** What was looked up last. */
export let texelR: f32 = 0;
export let texelG: f32 = 0;
export let texelB: f32 = 0;
let texelA: f32 = 0;

function wrap(x: i32, size: i32): i32 {
  const m = x % size;
  return m < 0 ? m + size : m;
}

function addTexel(pixels: usize, encoding: u32, width: i32, height: i32, x: i32, y: i32, weight: f32): void {
  const place = <usize>(wrap(y, height) * width + wrap(x, width));
  if (encoding === ENCODING_FLOAT) {
    const at = pixels + place * 16;
    texelR += weight * load<f32>(at);
    texelG += weight * load<f32>(at, 4);
    texelB += weight * load<f32>(at, 8);
    texelA += weight * load<f32>(at, 12);
    return;
  }
  const at = pixels + place * 4;
  const r = <u32>load<u8>(at),
    g = <u32>load<u8>(at, 1),
    b = <u32>load<u8>(at, 2);
  const scale: f32 = <f32>1 / <f32>255;
  const coded = encoding === ENCODING_SRGB8;
  texelR += weight * (coded ? linearFromSrgb8(r) : <f32>r * scale);
  texelG += weight * (coded ? linearFromSrgb8(g) : <f32>g * scale);
  texelB += weight * (coded ? linearFromSrgb8(b) : <f32>b * scale);
  texelA += weight * <f32>load<u8>(at, 3) * scale;
}

function addLevel(texture: usize, level: i32, u: f32, v: f32, weight: f32): void {
  const width = max(1, load<i32>(texture) >> level),
    height = max(1, load<i32>(texture, 4) >> level);
  const pixels = <usize>load<u32>(texture + TEXTURE_PIXELS + ((<usize>level) << 2));
  const encoding = load<u32>(texture, 12);
  const x = u * <f32>width - <f32>0.5,
    y = v * <f32>height - <f32>0.5;
  const x0 = floor(x),
    y0 = floor(y);
  const fx = x - x0,
    fy = y - y0;
  const ix = <i32>x0,
    iy = <i32>y0;
  addTexel(pixels, encoding, width, height, ix, iy, weight * (1 - fx) * (1 - fy));
  addTexel(pixels, encoding, width, height, ix + 1, iy, weight * fx * (1 - fy));
  addTexel(pixels, encoding, width, height, ix, iy + 1, weight * (1 - fx) * fy);
  addTexel(pixels, encoding, width, height, ix + 1, iy + 1, weight * fx * fy);
}

/** Blends between pixels and between the two nearest levels; `footprint` is the part of the picture that a pixel covers. */
export function lookUp(texture: usize, u: f32, v: f32, footprint: f32): void {
  texelR = 0;
  texelG = 0;
  texelB = 0;
  texelA = 0;
  const size = <f32>max(load<i32>(texture), load<i32>(texture, 4));
  const last = load<i32>(texture, 8) - 1;
  // Logarithm of two from the exponent and mantissa of the float.
  const bits = reinterpret<u32>(max<f32>(1, footprint * size));
  const level = min<f32>(<f32>last, <f32>(<i32>(bits >> 23) - 127) + <f32>(bits & 0x7fffff) * <f32>1.1920929e-7);
  const low = min(last, min(TEXTURE_LEVELS - 1, <i32>level));
  const part = level - <f32>low;
  addLevel(texture, low, u, v, 1 - part);
  if (part > 0 && low < last) addLevel(texture, low + 1, u, v, part);
}

/**
 * Reads the source of a map at a shading point into texelR, G, B, A. A kind that is unknown ends the render: a wrong picture would
 * be believed.
 */
function readSource(map: usize, point: usize): void {
  const kind = load<u32>(map, MAP_KIND);
  if (kind !== SOURCE_PICTURE) unreachable();
  const m = map + MAP_MATRIX;
  const u = load<f32>(point, POINT_U),
    v = load<f32>(point, POINT_V);
  const mu = load<f32>(m) * u + load<f32>(m, 4) * v + load<f32>(m, 8);
  const mv = load<f32>(m, 12) * u + load<f32>(m, 16) * v + load<f32>(m, 20);
  const scale = sqrt<f32>(abs(load<f32>(m) * load<f32>(m, 16) - load<f32>(m, 4) * load<f32>(m, 12)));
  lookUp(<usize>load<u32>(map, MAP_DATA), mu, mv, load<f32>(point, POINT_COVERED) * scale);
}

/** The finish as its maps make it at a shading point: the finish itself where it has none, else a copy that the next call overwrites. */
export function mappedFinish(finish: usize, point: usize): usize {
  const count = load<u32>(finish, FINISH_MAP_COUNT);
  if (count === 0) return finish;
  memory.copy(room, finish, FINISH_SIZE);
  for (let k: u32 = 0; k < count; k++) {
    const map = <usize>load<u32>(finish, FINISH_MAPS) + <usize>k * MAP_SIZE;
    readSource(map, point);
    const target = room + <usize>load<u32>(map, MAP_TARGET);
    const strength = load<f32>(map, MAP_STRENGTH);
    if (load<u32>(map, MAP_TARGET) === FINISH_NORMAL) {
      // A tilt along the picture's rows and columns is one along the surface's coordinates by the transpose of the matrix.
      const tiltU = strength * (<f32>2 * texelR - 1),
        tiltV = -strength * (<f32>2 * texelG - 1);
      const m = map + MAP_MATRIX;
      const a = load<f32>(m),
        b = load<f32>(m, 4),
        c = load<f32>(m, 12),
        d = load<f32>(m, 16);
      const alongU = sqrt<f32>(max<f32>(1e-20, a * a + c * c)),
        alongV = sqrt<f32>(max<f32>(1e-20, b * b + d * d));
      store<f32>(target, (a * tiltU + c * tiltV) / alongU);
      store<f32>(target, (b * tiltU + d * tiltV) / alongV, 4);
      continue;
    }
    if (load<u32>(map, MAP_COMPONENTS) === 3) {
      multiply(target, texelR, strength);
      multiply(target + 4, texelG, strength);
      multiply(target + 8, texelB, strength);
      continue;
    }
    const channel = load<u32>(map, MAP_CHANNEL);
    multiply(target, channel === 0 ? texelR : channel === 1 ? texelG : channel === 2 ? texelB : texelA, strength);
  }
  return room;
}

function multiply(target: usize, value: f32, strength: f32): void {
  store<f32>(target, load<f32>(target) * (1 + strength * (value - 1)));
}
