// Owen-scrambled Sobol points in padded pairs of dimensions
// (Burley, Practical Hash-based Owen Scrambling, 2020). The point set depends on pixel, frame seed, sample and dimension only.

let pixelSeed: u32 = 0;
let sampleIndex: u32 = 0;
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

function scramble(x: u32, seed: u32): u32 {
  return reverseBits(permute(reverseBits(x), seed));
}

/** Second dimension of the Sobol sequence: its generator matrix is Pascal's triangle modulo two. */
function sobolSecond(index: u32): u32 {
  let result: u32 = 0;
  let column: u32 = 0x80000000;
  while (index) {
    if (index & 1) result ^= column;
    index >>= 1;
    column ^= column >> 1;
  }
  return result;
}

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
  sampleIndex = (interleave(x & inner, y & inner) << bits) | sample;
  dimension = 0;
}

/** Draws the next pair of dimensions into drawX and drawY. */
export function draw2(): void {
  const seed = hash(pixelSeed ^ (dimension * 0x9e3779b9));
  dimension++;
  // Nested from the first bit down: whole squares of pixels change places, then pixels, then samples.
  const index = permute(reverseBits(sampleIndex), seed);
  drawX = <f32>(scramble(index, hash(seed ^ 0x68bc21eb)) >> 8) * 5.9604645e-8;
  drawY = <f32>(scramble(sobolSecond(reverseBits(index)), hash(seed ^ 0x02e5be93)) >> 8) * 5.9604645e-8;
}

export function draw1(): f32 {
  draw2();
  return drawX;
}
