import { FILM_SAMPLES, SCENE_SAMPLES } from '@zippy/kernel/layout';
import { expectedErrors, meanAround } from './adaptive';
import { likePixels } from './likeness';
import type { LoadedFrame } from './loadedFrame';
import type { RenderSettings } from './settings';

/** Samples that every pixel gets before it is known where more are needed. */
export const PILOT = 8;
/** Averages from one round to the next: what is missed of a pixel's noise comes to light as its neighbours get more. */
const GROWTH = 3;
/** Of the average, that every pixel gets at least: even fields show the least noise. */
const LEAST = 0.5;
/** Times the average, that a pixel gets at most. */
const MOST = 16;
/** What a byte of the mask can say. */
const MOST_TIMES = 255;
/** Pixels that tell how many samples pixels want. */
const ENOUGH = 30_000;
/** Average from which on a byte counts more than one sample. */
const FEW = 64;

/** Most samples of a pixel: the average where samples go where they are needed, else what was set. */
export const mostSamples = ({ samples, noiseTarget, secondsPerFrame }: RenderSettings): number =>
  noiseTarget > 0 || secondsPerFrame > 0 || samples <= PILOT ? samples : samples * MOST;

/** Samples that a pixel has on average after each round of a frame, the first round for all alike. */
export function sampleRounds(samples: number): number[] {
  const averages: number[] = [];
  for (let average = Math.min(PILOT, samples); average < samples; average *= GROWTH) averages.push(average);
  // A last round of a few samples is worth no look at the film.
  if (averages.length > 1 && samples < averages.at(-1)! * 1.2) averages.pop();
  return [...averages, samples];
}

/**
 * Average to which the next round of a frame brings its pixels, where time is what ends it.
 * @param has samples that pixels have on average
 * @param affords samples that the time left pays for on average
 */
export const nextAverage = (has: number, affords: number): number =>
  affords < has * GROWTH ? has + affords : has * GROWTH;

/**
 * Samples for each of some pixels, `average` of them on average: in proportion to what each wants, and no fewer and no more than any may
 * have.
 * @param wants deviations of one sample
 */
export function shareOut(wants: readonly number[], average: number): number[] {
  const share = (want: number, scale: number) => Math.min(MOST * average, Math.max(LEAST * average, want * scale));
  const scale = solve((each) => wants.reduce((sum, want) => sum + share(want, each), 0) < average * wants.length);
  return wants.map((want) => share(want, scale));
}

/** The largest factor for which something that grows with it is still too little. */
function solve(isTooLittle: (scale: number) => boolean): number {
  let [low, high] = [1e-9, 1e12];
  for (let step = 0; step < 50; step++) {
    const scale = Math.sqrt(low * high);
    if (isTooLittle(scale)) low = scale;
    else high = scale;
  }
  return low;
}

/**
 * Writes into a frame's mask how many times each pixel gets more samples, so that pixels have as many on average as asked for: in
 * proportion to the deviation of one sample as the display shows it, which leaves the least error for the time (Neyman, On the Two
 * Different Aspects of the Representative Method, 1934), and fewer where the noise filter finds many like pixels. A pixel's own samples
 * have no say in how many it gets; see `expectedErrors`.
 * @param average samples of a pixel of the window, with those that it has
 * @param target error in display values that is let be
 * @returns how many samples one time is, and how many all pixels get together
 */
export function allocateSamples(
  memory: WebAssembly.Memory,
  frame: LoadedFrame,
  average: number,
  target = 0,
): { each: number; added: number } {
  const { width, height, floats, window } = frame;
  const film = new Float32Array(memory.buffer, frame.film, width * height * floats);
  const most = new Uint32Array(memory.buffer)[(frame.scene + SCENE_SAMPLES) / 4]!;
  const mask = new Uint8Array(memory.buffer, frame.mask, width * height).fill(0);
  const errors = expectedErrors(film, frame);
  const like = meanAround(likePixels(film, frame), width, 1, 2);
  const each = Math.ceil(average / FEW);
  const room = (window.right - window.left) * (window.bottom - window.top);
  const pixels = new Uint32Array(room);
  const [has, wants] = [new Float32Array(room), new Float32Array(room)];
  let count = 0;
  let missing = 0;
  for (let y = window.top; y < window.bottom; y++) {
    for (let x = window.left; x < window.right; x++) {
      const k = y * width + x;
      const own = film[k * floats + FILM_SAMPLES]!;
      missing += average - own;
      if (target > 0 && errors[k]! <= target) continue;
      pixels[count] = k;
      has[count] = own;
      wants[count++] = errors[k]! * Math.sqrt(own / like[k]!);
    }
  }
  const share = (at: number, scale: number): number => {
    const aim = Math.min(most, Math.max(LEAST * average, wants[at]! * scale));
    return Math.min(MOST_TIMES, Math.max(0, (aim - has[at]!) / each));
  };
  // Of large pictures some pixels tell what all of them want.
  const stride = Math.max(1, Math.floor(count / ENOUGH));
  const scale = solve((tried) => {
    let sum = 0;
    for (let at = 0; at < count; at += stride) sum += share(at, tried);
    return sum * each * stride < missing;
  });
  let added = 0;
  let rest = 0;
  for (let at = 0; at < count; at++) {
    const exact = share(at, scale) + rest;
    const times = Math.min(MOST_TIMES, Math.max(0, Math.round(exact)));
    rest = exact - times;
    mask[pixels[at]!] = times;
    added += times * each;
  }
  return { each, added };
}
