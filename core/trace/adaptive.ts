import { FILM_SAMPLES, FILM_SQUARES } from '@zippy/kernel/layout';
import { boxMean } from '../develop';
import { luminance } from '../optics';
import type { LoadedFrame } from './loadedFrame';

/** Samples every pixel gets before its noise is held against a target: fewer say too little of their own spread. */
export const FIRST_PASS = 16;
/** Light that is full white after developing, however much it is. */
const WHITE = 6;
/** Darkness below which the display shows no difference. */
const BLACK = 0.004;
/** Pixels on each side whose noise decides on a pixel. */
const REACH = 2;

/**
 * Error of a pixel as the display shows it, 0 to 1: the deviation of its mean through the slope of the display's curve.
 * @param deviation of the mean, in radiance as `light` is
 */
export function developedError(light: number, deviation: number): number {
  if (light - 2 * deviation > WHITE) return 0;
  return deviation / (2.2 * Math.max(BLACK, light) ** (1 - 1 / 2.2));
}

/** Errors of all pixels of a film of sums, each by its own samples. */
function errorsOf(film: Float32Array, { width, height, floats }: LoadedFrame): Float32Array {
  const errors = new Float32Array(width * height);
  for (let k = 0; k < errors.length; k++) {
    const at = k * floats;
    const samples = film[at + FILM_SAMPLES]!;
    // Outside the region there are none, and nothing is missing.
    if (samples < 2) continue;
    const mean = luminance([film[at]! / samples, film[at + 1]! / samples, film[at + 2]! / samples]);
    const spread = Math.max(0, film[at + FILM_SQUARES]! / samples - mean * mean);
    errors[k] = developedError(mean, Math.sqrt(spread / (samples - 1)));
  }
  return errors;
}

/**
 * Means over the pixels more than `inner` and at most `outer` away from each, along rows or columns. A picture of a few pixels has none
 * around: there it is the mean of all.
 */
export function meanAround(values: Float32Array, width: number, inner: number, outer: number): Float32Array {
  const height = values.length / width;
  const all = boxMean(values, width, outer);
  const within = boxMean(values, width, inner);
  const covered = (at: number, reach: number, length: number) =>
    Math.min(length - 1, at + reach) - Math.max(0, at - reach) + 1;
  const out = new Float32Array(values.length);
  for (let k = 0; k < out.length; k++) {
    const [x, y] = [k % width, Math.floor(k / width)];
    const whole = covered(x, outer, width) * covered(y, outer, height);
    const left = covered(x, inner, width) * covered(y, inner, height);
    out[k] = whole > left ? Math.max(0, whole * all[k]! - left * within[k]!) / (whole - left) : all[k]!;
  }
  return out;
}

/**
 * Errors that pixels must be expected to have with the samples they got, by how much the samples of their neighbours differ. Whether a
 * pixel gets more must not hang on what its own samples were: where dark ones end it and bright ones do not, light is lost (Kirk and
 * Arvo, Unbiased Sampling Techniques for Image Synthesis, 1991).
 */
export function expectedErrors(film: Float32Array, { width, height, floats }: LoadedFrame): Float32Array {
  const count = width * height;
  const [counts, lights, spreads] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  for (let k = 0; k < count; k++) {
    const at = k * floats;
    const samples = film[at + FILM_SAMPLES]!;
    // Outside the region there are none, and nothing is missing.
    if (samples < 2) continue;
    const sum = luminance([film[at]!, film[at + 1]!, film[at + 2]!]);
    counts[k] = samples;
    lights[k] = sum;
    spreads[k] = (Math.max(0, film[at + FILM_SQUARES]! - (sum * sum) / samples) * samples) / (samples - 1);
  }
  const around = (values: Float32Array) => meanAround(values, width, 0, REACH);
  const [samples, light, spread] = [around(counts), around(lights), around(spreads)];
  return counts.map((own, k) =>
    own > 0 && samples[k]! > 0 ? developedError(light[k]! / samples[k]!, Math.sqrt(spread[k]! / samples[k]! / own)) : 0,
  );
}

const filmOf = (memory: WebAssembly.Memory, { film, width, height, floats }: LoadedFrame): Float32Array =>
  new Float32Array(memory.buffer, film, width * height * floats);

/**
 * Marks the pixels of a frame about which the noise is above a target, so that the next pass goes to them.
 * The same film gives the same marks, whoever rendered it.
 * @param target largest error in display values that is let be
 * @returns how many pixels are marked
 */
export function markNoisy(memory: WebAssembly.Memory, frame: LoadedFrame, target: number): number {
  const errors = expectedErrors(filmOf(memory, frame), frame);
  const marks = new Uint8Array(memory.buffer, frame.mask, errors.length).fill(0);
  let marked = 0;
  for (let k = 0; k < errors.length; k++) {
    if (errors[k]! <= target) continue;
    marks[k] = 1;
    marked++;
  }
  return marked;
}

/** Errors in display values of `count` pixels of a film of sums, evenly picked. */
export function sampleErrors(memory: WebAssembly.Memory, frame: LoadedFrame, count: number): number[] {
  const errors = errorsOf(filmOf(memory, frame), frame);
  const step = Math.max(1, Math.floor(errors.length / count));
  return Array.from(errors).filter((_, k) => k % step === 0);
}

/** Ends of the passes that a frame with a noise target is rendered in: each half as long again as all before. */
export function adaptivePasses(samples: number): number[] {
  const ends: number[] = [];
  for (let end = Math.min(FIRST_PASS, samples); end < samples; end = Math.ceil(end * 1.5)) ends.push(end);
  return [...ends, samples];
}
