// Grain without end: lattice noise by an integer hash, the same on every machine. Ken Perlin, Improving Noise, 2002; Steven Worley, A
// Cellular Texture Basis Function, 1996.

import { hash } from '../hash';
import {
  NOISE_CELLS_MEAN,
  NOISE_CRACKS_MEAN,
  NOISE_XX,
  NOISE_XY,
  NOISE_XZ,
  NOISE_YX,
  NOISE_YY,
  NOISE_YZ,
  NOISE_ZX,
  NOISE_ZY,
  NOISE_ZZ,
} from '../layout';

const ONE: f32 = 1;
const UNIT: f32 = 5.9604645e-8;

const HALF: f32 = 0.5;

/** A number of 32 even bits for a place of the lattice (Teschner et al., Optimized Spatial Hashing, 2003; mixed well afterwards). */
export function latticeHash(x: i32, y: i32, z: i32, seed: u32): u32 {
  return hash(<u32>x * 0x8da6b343 + <u32>y * 0xd8163841 + <u32>z * 0xcb1ab31f + seed * 0x9e3779b9);
}

/** A hash as a number from 0 to 1. */
export function unitOf(hash: u32): f32 {
  return <f32>(hash >> 8) * UNIT;
}

function fade(t: f32): f32 {
  return t * t * t * (t * (t * <f32>6 - <f32>15) + <f32>10);
}

function mix(a: f32, b: f32, t: f32): f32 {
  return a + t * (b - a);
}

/** Where a place lies in its cell of the lattice, and the cell. */
let cellX: i32 = 0;
let cellY: i32 = 0;
let cellZ: i32 = 0;
let inX: f32 = 0;
let inY: f32 = 0;
let inZ: f32 = 0;
function openCell(x: f32, y: f32, z: f32): void {
  const fx = floor(x),
    fy = floor(y),
    fz = floor(z);
  cellX = <i32>fx;
  cellY = <i32>fy;
  cellZ = <i32>fz;
  inX = x - fx;
  inY = y - fy;
  inZ = z - fz;
}

/** Values at the corners of the lattice, blended: 0 to 1, 0.5 on average. */
function valueNoise(seed: u32): f32 {
  const u = fade(inX),
    v = fade(inY),
    w = fade(inZ);
  const near = mix(
    mix(unitOf(latticeHash(cellX, cellY, cellZ, seed)), unitOf(latticeHash(cellX + 1, cellY, cellZ, seed)), u),
    mix(unitOf(latticeHash(cellX, cellY + 1, cellZ, seed)), unitOf(latticeHash(cellX + 1, cellY + 1, cellZ, seed)), u),
    v,
  );
  const far = mix(
    mix(unitOf(latticeHash(cellX, cellY, cellZ + 1, seed)), unitOf(latticeHash(cellX + 1, cellY, cellZ + 1, seed)), u),
    mix(
      unitOf(latticeHash(cellX, cellY + 1, cellZ + 1, seed)),
      unitOf(latticeHash(cellX + 1, cellY + 1, cellZ + 1, seed)),
      u,
    ),
    v,
  );
  return mix(near, far, w);
}

/** One of the twelve ways to the edges of a cube, times a way. */
function alongEdge(hash: u32, x: f32, y: f32, z: f32): f32 {
  const h = hash >> 28;
  const u: f32 = h < 8 ? x : y;
  const v: f32 = h < 4 ? y : h === 12 || h === 14 ? x : z;
  return ((h & 1) === 0 ? u : -u) + ((h & 2) === 0 ? v : -v);
}

/** Slopes at the corners of the lattice, blended: about 0 to 1, 0.5 on average. */
function gradientNoise(seed: u32): f32 {
  const u = fade(inX),
    v = fade(inY),
    w = fade(inZ);
  const x = inX,
    y = inY,
    z = inZ;
  const near = mix(
    mix(
      alongEdge(latticeHash(cellX, cellY, cellZ, seed), x, y, z),
      alongEdge(latticeHash(cellX + 1, cellY, cellZ, seed), x - ONE, y, z),
      u,
    ),
    mix(
      alongEdge(latticeHash(cellX, cellY + 1, cellZ, seed), x, y - ONE, z),
      alongEdge(latticeHash(cellX + 1, cellY + 1, cellZ, seed), x - ONE, y - ONE, z),
      u,
    ),
    v,
  );
  const far = mix(
    mix(
      alongEdge(latticeHash(cellX, cellY, cellZ + 1, seed), x, y, z - ONE),
      alongEdge(latticeHash(cellX + 1, cellY, cellZ + 1, seed), x - ONE, y, z - ONE),
      u,
    ),
    mix(
      alongEdge(latticeHash(cellX, cellY + 1, cellZ + 1, seed), x, y - ONE, z - ONE),
      alongEdge(latticeHash(cellX + 1, cellY + 1, cellZ + 1, seed), x - ONE, y - ONE, z - ONE),
      u,
    ),
    v,
  );
  return min<f32>(1, max<f32>(0, HALF + <f32>0.6 * mix(near, far, w)));
}

/** Results of `openCells`: ways to the nearest point and the one after it, and the hash of the nearest. */
let first: f32 = 0;
let second: f32 = 0;
let nearest_: u32 = 0;
function openCells(seed: u32): void {
  first = 8;
  second = 8;
  for (let k = -1; k <= 1; k++)
    for (let j = -1; j <= 1; j++)
      for (let i = -1; i <= 1; i++) {
        const own = latticeHash(cellX + i, cellY + j, cellZ + k, seed);
        const x = <f32>i + unitOf(own) - inX;
        const other = hash(own);
        const y = <f32>j + unitOf(other) - inY;
        const z = <f32>k + unitOf(hash(other)) - inZ;
        const apart = x * x + y * y + z * z;
        if (apart < first) {
          second = first;
          first = apart;
          nearest_ = own;
        } else if (apart < second) second = apart;
      }
  first = sqrt<f32>(first);
  second = sqrt<f32>(second);
}

/** One layer of grain at a place, in cells of the lattice. @param pattern value, gradient, cells, cracks, flakes */
function grain(pattern: u32, x: f32, y: f32, z: f32, seed: u32): f32 {
  openCell(x, y, z);
  if (pattern === 0) return valueNoise(seed);
  if (pattern === 1) return gradientNoise(seed);
  openCells(seed);
  if (pattern === 2) return min<f32>(1, first);
  if (pattern === 3) return min<f32>(1, second - first);
  return unitOf(hash(nearest_ ^ 0x68bc21eb));
}

/** What grain of a pattern fades to where it is finer than a pixel. */
function meanOf(pattern: u32): f32 {
  return pattern === 2 ? <f32>NOISE_CELLS_MEAN : pattern === 3 ? <f32>NOISE_CRACKS_MEAN : HALF;
}

/**
 * Layers of grain at a place, each half as wide as the one before. What is finer than a pixel is its mean, so that it neither sparkles
 * nor changes how bright a surface is from afar; what is as wide as one is left to the samples, which keep what a threshold makes of it.
 * @param width of a pixel, in cells of the coarsest layer @param fineness strength of each layer beside the one before
 */
export function noiseAt(pattern: u32, x: f32, y: f32, z: f32, width: f32, octaves: u32, fineness: f32, seed: u32): f32 {
  const mean = meanOf(pattern);
  const tx: f32 = <f32>NOISE_XX * x + <f32>NOISE_XY * y + <f32>NOISE_XZ * z;
  const ty: f32 = <f32>NOISE_YX * x + <f32>NOISE_YY * y + <f32>NOISE_YZ * z;
  const tz: f32 = <f32>NOISE_ZX * x + <f32>NOISE_ZY * y + <f32>NOISE_ZZ * z;
  let sum: f32 = 0,
    all: f32 = 0,
    strength: f32 = 1,
    scale: f32 = 1;
  for (let k: u32 = 0; k < octaves; k++) {
    const seen = min<f32>(1, max<f32>(0, <f32>1.75 - width * scale));
    if (seen > 0)
      sum += strength * seen * (grain(pattern, tx * scale, ty * scale, tz * scale, seed + k * 0x632be5ab) - mean);
    all += strength;
    strength *= fineness;
    scale *= 2;
  }
  return mean + sum / all;
}
