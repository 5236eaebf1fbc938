import { FILM_GUIDE_SQUARES, FILM_SAMPLES, FILM_SQUARES } from '@zippy/kernel/layout';
import { boxMean } from '../develop';
import { luminance } from '../optics';
import type { LoadedFrame } from './loadedFrame';

// What a film shows of a pixel: normal (3), albedo (3), luminance, then the variances of the means of normal, albedo and luminance.
const ALBEDO = 3;
const LUMINANCE = 6;
const NORMAL_SPREAD = 7;
const ALBEDO_SPREAD = 8;
const VARIANCE = 9;
const VALUES = 10;

// As the noise filter compares pixels; see kernel/assembly/denoise.ts.
const NORMAL_SHARPNESS = 150;
const ALBEDO_SHARPNESS = 600;
const CHANCE = 3.5;
/** Deviations of their means by which the light of two pixels may differ by chance. */
const SPREAD = 2.2;
/** The filter's shares of a pixel, of those beside it and of those at its corners. */
const OWN = 0.140625;
const BESIDE = 0.09375;
const CORNER = 0.0625;
/** One of each pair of neighbours. */
const NEIGHBOURS = [
  { right: 1, down: 0, share: BESIDE },
  { right: -1, down: 1, share: CORNER },
  { right: 0, down: 1, share: BESIDE },
  { right: 1, down: 1, share: CORNER },
] as const;

type FilmShape = Pick<LoadedFrame, 'width' | 'height' | 'floats'>;

/** Variance of the mean of samples, from the sum of their squares and the square of their mean. */
const varianceOf = (squares: number, square: number, samples: number): number =>
  Math.max(0, squares / samples - square) / Math.max(1, samples - 1);

function valuesOf(film: Float32Array, { width, height, floats }: FilmShape): Float32Array {
  const count = width * height;
  const values = new Float32Array(count * VALUES);
  const variance = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const from = k * floats;
    const to = k * VALUES;
    const samples = Math.max(1, film[from + FILM_SAMPLES]!);
    let normal = 0;
    let albedo = 0;
    for (let c = 0; c < 3; c++) {
      const n = (values[to + c] = film[from + 4 + c]! / samples);
      const a = (values[to + ALBEDO + c] = film[from + 8 + c]! / samples);
      normal += n * n;
      albedo += a * a;
    }
    const light = luminance([film[from]!, film[from + 1]!, film[from + 2]!]) / samples;
    values[to + LUMINANCE] = light;
    values[to + NORMAL_SPREAD] = varianceOf(film[from + FILM_GUIDE_SQUARES]!, normal, samples);
    values[to + ALBEDO_SPREAD] = varianceOf(film[from + FILM_GUIDE_SQUARES + 1]!, albedo, samples);
    variance[k] = varianceOf(film[from + FILM_SQUARES]!, light * light, samples);
  }
  const around = boxMean(variance, width, 1);
  for (let k = 0; k < count; k++) values[k * VALUES + VARIANCE] = around[k]!;
  return values;
}

function squareApart(values: Float32Array, p: number, q: number): number {
  const x = values[p]! - values[q]!;
  const y = values[p + 1]! - values[q + 1]!;
  const z = values[p + 2]! - values[q + 2]!;
  return x * x + y * y + z * z;
}

/** How far two pixels are apart in surface and light, 0 where chance may be all of it. */
function apart(values: Float32Array, p: number, q: number): number {
  const normals = squareApart(values, p, q) - CHANCE * (values[p + NORMAL_SPREAD]! + values[q + NORMAL_SPREAD]!);
  const albedos =
    squareApart(values, p + ALBEDO, q + ALBEDO) - CHANCE * (values[p + ALBEDO_SPREAD]! + values[q + ALBEDO_SPREAD]!);
  const light = values[p + LUMINANCE]!;
  const spread = SPREAD * Math.sqrt((values[p + VARIANCE]! + values[q + VARIANCE]!) / 2);
  const change = Math.abs(light - values[q + LUMINANCE]!) / (spread + 0.01 * light + 1e-4);
  return (
    NORMAL_SHARPNESS * Math.max(0, normals) + ALBEDO_SHARPNESS * Math.max(0, albedos) + change * (0.3 + 0.5 * change)
  );
}

/**
 * How many pixels among each and its eight neighbours show the same surface in the same light, as far as the noise filter can tell: the
 * variance of a pixel over this number is what the filter's first step leaves of it (Kish's effective size of a weighted sample).
 * @param film sums over samples
 * @returns 1 to 9 for every pixel
 */
export function likePixels(film: Float32Array, shape: FilmShape): Float32Array {
  const { width, height } = shape;
  const values = valuesOf(film, shape);
  const sums = new Float32Array(width * height).fill(OWN);
  const squares = new Float32Array(width * height).fill(OWN * OWN);
  for (const { right, down, share } of NEIGHBOURS) {
    for (let y = 0; y < height - down; y++) {
      for (let x = Math.max(0, -right); x < width - Math.max(0, right); x++) {
        const p = y * width + x;
        const q = p + down * width + right;
        const far = apart(values, p * VALUES, q * VALUES);
        const weight = share / (1 + far * (1 + far / 2));
        sums[p]! += weight;
        sums[q]! += weight;
        squares[p]! += weight * weight;
        squares[q]! += weight * weight;
      }
    }
  }
  return sums.map((sum, k) => (sum * sum) / squares[k]!);
}
