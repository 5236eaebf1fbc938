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

export function startSample(x: u32, y: u32, seed: u32, sample: u32): void {
  pixelSeed = hash(x + hash(y + hash(seed)));
  sampleIndex = sample;
  dimension = 0;
}

/** Draws the next pair of dimensions into drawX and drawY. */
export function draw2(): void {
  const seed = hash(pixelSeed ^ (dimension * 0x9e3779b9));
  dimension++;
  const index = scramble(sampleIndex, seed);
  drawX = <f32>(scramble(reverseBits(index), hash(seed ^ 0x68bc21eb)) >> 8) * 5.9604645e-8;
  drawY = <f32>(scramble(sobolSecond(index), hash(seed ^ 0x02e5be93)) >> 8) * 5.9604645e-8;
}

export function draw1(): f32 {
  draw2();
  return drawX;
}
