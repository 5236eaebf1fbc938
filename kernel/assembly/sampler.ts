// Owen-scrambled Sobol points in padded pairs of dimensions
// (Burley, Practical Hash-based Owen Scrambling, 2020). The point set depends on pixel, frame seed, sample and dimension only.

import { hash } from './hash';

let pixelSeed: u32 = 0;
let reversedIndex: u32 = 0;
let dimension: u32 = 0;
let drawn: usize = 0;

/** Gives this worker room for the numbers of four dimensions: 32 bytes. */
export function setSamplerScratch(at: usize): void {
  drawn = at;
}

/** The two numbers of the last draw, in [0, 1). */
export let drawX: f32 = 0;
export let drawY: f32 = 0;

function reverseBits(x: u32): u32 {
  x = ((x >> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return (x >> 16) | (x << 16);
}

const TO_UNIT: f32 = 5.9604645e-8;

/** Bits of x and y taking turns, for at most 16 of each (Morton order). */
function interleave(x: u32, y: u32): u32 {
  return spread(x) | (spread(y) << 1);
}

function spread(v: u32): u32 {
  v &= 0xffff;
  v = (v | (v << 8)) & 0x00ff00ff;
  v = (v | (v << 4)) & 0x0f0f0f0f;
  v = (v | (v << 2)) & 0x33333333;
  return (v | (v << 1)) & 0x55555555;
}

/**
 * Starts a sample of a pixel. One sequence runs over the whole picture along a Morton curve, 2^bits samples a pixel: neighbours
 * share out the error between them, which spreads it as blue noise (Ahmed and Wonka, Screen-Space Blue-Noise Diffusion of
 * Monte Carlo Sampling Error via Hierarchical Ordering of Pixels, 2020). Squares of pixels that have used up 32 bits begin anew, and so
 * do pixels that get more samples than their part of the sequence has.
 */
export function startSample(x: u32, y: u32, seed: u32, sample: u32, bits: u32): void {
  const side = (32 - bits) >> 1;
  const inner: u32 = side >= 16 ? 0xffff : (1 << side) - 1;
  const again = sample >> bits;
  pixelSeed = hash((x & ~inner) + hash((y & ~inner) + hash(seed + again * 0x9e3779b9)));
  reversedIndex = reverseBits((interleave(x & inner, y & inner) << bits) | (sample - (again << bits)));
  dimension = 0;
}

/** Draws the next pair of dimensions into drawX and drawY. */
export function draw2(): void {
  const lane = dimension & 3;
  if (lane === 0) drawFour();
  dimension++;
  const at = drawn + ((<usize>lane) << 2);
  drawX = load<f32>(at);
  drawY = load<f32>(at, 16);
}

/** Draws from the next dimension alone. */
export function draw1(): f32 {
  const lane = dimension & 3;
  if (lane === 0) drawFour();
  dimension++;
  return load<f32>(drawn + ((<usize>lane) << 2));
}

// ----------------------------------------------------------------------------------- the same on four dimensions at once

/** Fills the room for the present dimension and the three after it: one of them costs nearly as much as all. */
function drawFour(): void {
  const numbers = i32x4.mul(i32x4.add(i32x4.splat(dimension), i32x4(0, 1, 2, 3)), i32x4.splat(0x9e3779b9));
  const seeds = hashes(v128.xor(i32x4.splat(pixelSeed), numbers));
  // Nested from the first bit down: whole squares of pixels change places, then pixels, then samples.
  const indices = reversals(permutations(i32x4.splat(reversedIndex), seeds));
  v128.store(drawn, units(permutations(indices, i32x4.mul(seeds, i32x4.splat(0x68bc21eb)))));
  v128.store(drawn, units(permutations(sobolSeconds(indices), i32x4.mul(seeds, i32x4.splat(0x02e5be93)))), 16);
}

function hashes(x: v128): v128 {
  x = v128.xor(x, i32x4.shr_u(x, 16));
  x = i32x4.mul(x, i32x4.splat(0x21f0aaad));
  x = v128.xor(x, i32x4.shr_u(x, 15));
  x = i32x4.mul(x, i32x4.splat(0xd35a2d97));
  return v128.xor(x, i32x4.shr_u(x, 15));
}

/** Laine and Karras' permutation: scrambles each bit by the ones below it. */
function permutations(x: v128, seeds: v128): v128 {
  x = v128.xor(x, i32x4.mul(x, i32x4.splat(0x3d20adea)));
  x = i32x4.add(x, seeds);
  x = i32x4.mul(x, v128.or(i32x4.shr_u(seeds, 16), i32x4.splat(1)));
  x = v128.xor(x, i32x4.mul(x, i32x4.splat(0x05526c56)));
  return v128.xor(x, i32x4.mul(x, i32x4.splat(0x53a22864)));
}

/** Bits of every number in the opposite order: halves of bytes by a table, then the bytes. */
function reversals(x: v128): v128 {
  const half = i8x16.splat(15);
  // Bytes 00 80 40 c0 …: what each value of the lower half becomes as the upper one, and the other way round.
  const low = i8x16.swizzle(i32x4(0xc0408000, 0xe060a020, 0xd0509010, 0xf070b030), v128.and(x, half));
  const high = i8x16.swizzle(i32x4(0x0c040800, 0x0e060a02, 0x0d050901, 0x0f070b03), v128.and(i32x4.shr_u(x, 4), half));
  return i8x16.shuffle(v128.or(low, high), half, 3, 2, 1, 0, 7, 6, 5, 4, 11, 10, 9, 8, 15, 14, 13, 12);
}

/**
 * Second dimension of the Sobol sequence, bits reversed. Its generator matrix is Pascal's triangle modulo two: by Lucas' theorem
 * bit j is the sum over all bits i that contain j, which five folds of the word give.
 */
function sobolSeconds(x: v128): v128 {
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 1), i32x4.splat(0x55555555)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 2), i32x4.splat(0x33333333)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 4), i32x4.splat(0x0f0f0f0f)));
  x = v128.xor(x, v128.and(i32x4.shr_u(x, 8), i32x4.splat(0x00ff00ff)));
  return v128.xor(x, i32x4.shr_u(x, 16));
}

/** Numbers in [0, 1) from reversed bits. */
function units(x: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(reversals(x), 8)), f32x4.splat(TO_UNIT));
}
