// Pictures, looked up with a level that fits what a pixel covers.

import { linearFromSrgb8 } from './energy';
import { ENCODING_HALF, ENCODING_SRGB8, TEXTURE_LEVELS, TEXTURE_PIXELS } from './layout';

/** What was looked up last. */
export let texelR: f32 = 0;
export let texelG: f32 = 0;
export let texelB: f32 = 0;
export let texelA: f32 = 0;

function wrap(x: i32, size: i32): i32 {
  const m = x % size;
  return m < 0 ? m + size : m;
}

/** A finite half-precision number (IEEE 754 binary16): its bits as those of a float, whose exponent is 112 too small. */
function fromHalf(half: u32): f32 {
  const size = reinterpret<f32>((half & 0x7fff) << 13) * reinterpret<f32>(<u32>0x77800000);
  return (half & 0x8000) !== 0 ? -size : size;
}

function addTexel(pixels: usize, encoding: u32, width: i32, height: i32, x: i32, y: i32, weight: f32): void {
  const place = <usize>(wrap(y, height) * width + wrap(x, width));
  if (encoding === ENCODING_HALF) {
    const at = pixels + place * 8;
    texelR += weight * fromHalf(<u32>load<u16>(at));
    texelG += weight * fromHalf(<u32>load<u16>(at, 2));
    texelB += weight * fromHalf(<u32>load<u16>(at, 4));
    texelA += weight * fromHalf(<u32>load<u16>(at, 6));
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
