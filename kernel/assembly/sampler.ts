// Owen-scrambled Sobol points in padded pairs of dimensions
// (Burley, Practical Hash-based Owen Scrambling, 2020). The point set depends on pixel, frame seed, sample and dimension only.

let pixelSeed: u32 = 0;
let reversedIndex: u32 = 0;
let dimension: u32 = 0;

/** The two numbers of the last draw, in [0, 1). */
export let drawX: f32 = 0;
export let drawY: f32 = 0;

function hash(x: u32): u32 {
  x ^= x >> 16;
  x *= 0x21f0aaad;
  x ^= x >> 15;
  x *= 0xd35a2d97;
  x ^= x >> 15;
  return x;
}

function reverseBits(x: u32): u32 {
  x = ((x >> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return (x >> 16) | (x << 16);
}

/** Laine and Karras' permutation: scrambles each bit by the ones below it. */
function permute(x: u32, seed: u32): u32 {
  x ^= x * 0x3d20adea;
  x += seed;
  x *= (seed >> 16) | 1;
  x ^= x * 0x05526c56;
  x ^= x * 0x53a22864;
  return x;
}

/**
 * Second dimension of the Sobol sequence, bits reversed. Its generator matrix is Pascal's triangle modulo two: by Lucas' theorem
 * bit j is the sum over all bits i that contain j, which five folds of the word give.
 */
function sobolSecond(x: u32): u32 {
  x ^= (x >> 1) & 0x55555555;
  x ^= (x >> 2) & 0x33333333;
  x ^= (x >> 4) & 0x0f0f0f0f;
  x ^= (x >> 8) & 0x00ff00ff;
  return x ^ (x >> 16);
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
 * Monte Carlo Sampling Error via Hierarchical Ordering of Pixels, 2020). Squares of pixels that have used up 32 bits begin anew.
 */
export function startSample(x: u32, y: u32, seed: u32, sample: u32, bits: u32): void {
  const side = (32 - bits) >> 1;
  const inner: u32 = side >= 16 ? 0xffff : (1 << side) - 1;
  pixelSeed = hash((x & ~inner) + hash((y & ~inner) + hash(seed)));
  reversedIndex = reverseBits((interleave(x & inner, y & inner) << bits) | sample);
  dimension = 0;
}

/** Draws the next pair of dimensions into drawX and drawY. */
export function draw2(): void {
  const seed = hash(pixelSeed ^ (dimension * 0x9e3779b9));
  dimension++;
  // Nested from the first bit down: whole squares of pixels change places, then pixels, then samples.
  const index = reverseBits(permute(reversedIndex, seed));
  drawX = <f32>(reverseBits(permute(index, seed * 0x68bc21eb)) >> 8) * TO_UNIT;
  drawY = <f32>(reverseBits(permute(sobolSecond(index), seed * 0x02e5be93)) >> 8) * TO_UNIT;
}

/** Draws from the next dimension alone. */
export function draw1(): f32 {
  const seed = hash(pixelSeed ^ (dimension * 0x9e3779b9));
  dimension++;
  return <f32>(reverseBits(permute(reverseBits(permute(reversedIndex, seed)), seed * 0x68bc21eb)) >> 8) * TO_UNIT;
}
