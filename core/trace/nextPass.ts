import { adaptivePasses, markNoisy } from './adaptive';
import { allocateSamples, nextAverage, PILOT, sampleRounds } from './allocation';
import type { LoadedFrame } from './loadedFrame';
import type { RenderSettings } from './settings';

/** A pass over a frame, and what is known of the frame when it begins: all that another one needs to go on from here. */
export interface Pass {
  /** The first is 0. */
  number: number;
  /** Samples that a marked pixel gets, times what the mask says. */
  samples: number;
  /** Only pixels that the frame's mask marks get samples. */
  masked: boolean;
  /** Samples that pixels have on average before it, and that it adds. */
  has: number;
  adds: number;
  /** Milliseconds of tracing before it. */
  spent: number;
}

/** Samples on average below which time that is left is not worth a look at the film. */
const LEAST_ROUND = 0.5;

/** The first pass over a frame. */
export function firstPass({ samples, noiseTarget, secondsPerFrame }: RenderSettings): Pass {
  const first = secondsPerFrame > 0 ? PILOT : noiseTarget > 0 ? adaptivePasses(samples)[0]! : sampleRounds(samples)[0]!;
  return { number: 0, samples: first, masked: false, has: 0, adds: first, spent: 0 };
}

/**
 * What comes after a pass: samples where they are needed, pass by pass to where the noise is, until the target, the samples or the time
 * are used up. Writes the frame's mask.
 * @param took milliseconds that the pass took
 * @returns null where the frame is done
 */
export function nextPass(
  memory: WebAssembly.Memory,
  frame: LoadedFrame,
  settings: RenderSettings,
  pass: Pass,
  took: number,
): Pass | null {
  const { samples, noiseTarget, secondsPerFrame } = settings;
  const [has, spent, number] = [pass.has + pass.adds, pass.spent + took, pass.number + 1];
  const pixels = (frame.window.right - frame.window.left) * (frame.window.bottom - frame.window.top);
  if (secondsPerFrame > 0) {
    const affords = ((secondsPerFrame * 1000 - spent) / took) * pass.adds;
    if (affords < LEAST_ROUND) return null;
    const { each, added } = allocateSamples(memory, frame, nextAverage(has, affords), noiseTarget);
    return added === 0 ? null : { number, samples: each, masked: true, has, adds: added / pixels, spent };
  }
  if (noiseTarget > 0) {
    const ends = adaptivePasses(samples);
    const end = ends[number];
    const noisy = end === undefined ? 0 : markNoisy(memory, frame, noiseTarget);
    if (end === undefined || noisy === 0) return null;
    const own = end - ends[number - 1]!;
    return { number, samples: own, masked: true, has, adds: (own * noisy) / pixels, spent };
  }
  const average = sampleRounds(samples)[number];
  if (average === undefined) return null;
  const { each, added } = allocateSamples(memory, frame, average);
  return { number, samples: each, masked: true, has, adds: added / pixels, spent };
}

/**
 * How much of a frame is done, 0 to 1: by what was asked for, so that one which reaches its noise target early jumps to its end.
 * @param part of the present pass that is done, 0 to 1
 * @param elapsed milliseconds of the present pass
 */
export function frameProgress(settings: RenderSettings, pass: Pass, part: number, elapsed: number): number {
  const { samples, noiseTarget, secondsPerFrame } = settings;
  if (secondsPerFrame > 0) return Math.min(1, (pass.spent + elapsed) / (secondsPerFrame * 1000));
  if (noiseTarget <= 0) return Math.min(1, (pass.has + pass.adds * part) / samples);
  const ends = adaptivePasses(samples);
  const [from, to] = [ends[pass.number - 1] ?? 0, ends[pass.number] ?? samples];
  return Math.min(1, (from + (to - from) * part) / samples);
}

/** A frame left in the middle: its passes, and the tiles of the present one that are done. */
export interface Interrupted {
  pass: Pass;
  /** Tiles of the pass that are done, from the first on, and milliseconds that they took. */
  tiles: number;
  elapsed: number;
  film: Uint8Array<ArrayBuffer>;
  mask: Uint8Array<ArrayBuffer>;
}

/** Copies what there is of a frame out of memory, once every worker has left it. */
export function keepFrame(
  memory: WebAssembly.Memory,
  frame: LoadedFrame,
  at: Pick<Interrupted, 'pass' | 'tiles' | 'elapsed'>,
): Interrupted {
  const { width, height, floats } = frame;
  return {
    ...at,
    film: new Uint8Array(memory.buffer, frame.film, width * height * floats * 4).slice(),
    mask: new Uint8Array(memory.buffer, frame.mask, width * height).slice(),
  };
}

/** Puts a frame that was left back into memory. @returns false where it is of another size */
export function resumeFrame(memory: WebAssembly.Memory, frame: LoadedFrame, { film, mask }: Interrupted): boolean {
  const { width, height, floats } = frame;
  if (film.length !== width * height * floats * 4 || mask.length !== width * height) return false;
  new Uint8Array(memory.buffer, frame.film, film.length).set(film);
  new Uint8Array(memory.buffer, frame.mask, mask.length).set(mask);
  return true;
}
