import { FIRST_PASS } from './adaptive';
import { PILOT, shareOut } from './allocation';
import type { RenderSettings } from './settings';

/** What one frame of a shot tells when it is rendered small and for a moment. */
export interface Probe {
  /** Seconds before the first ray: evaluating, placing, building. */
  setup: number;
  /** Seconds one sample of one pixel takes on all workers together. */
  perSample: number;
  /** Samples a pixel got, and the errors in display values that it then had, evenly picked over the picture. */
  samples: number;
  errors: number[];
}

/** A value with the range in which it probably lies. */
interface Estimate {
  expected: number;
  low: number;
  high: number;
}

export interface Prediction {
  /** Of the whole take. */
  seconds: Estimate;
  secondsPerFrame: Estimate;
  /** Root mean square error in display values. */
  noise: Estimate;
  /** Frames that will be traced: repeats and those there already cost nothing. */
  frames: number;
}

/** Width of the picture a probe renders, in pixels. */
export const PROBE_WIDTH = 112;

/** Smallest spread of a time that machines keep. */
const UNSTEADY = 0.1;

/** Frames to probe, evenly over those to be traced. */
export function probeFrames(frames: number[], most = 5): number[] {
  if (frames.length <= most) return frames;
  return Array.from({ length: most }, (_, k) => frames[Math.round((k * (frames.length - 1)) / (most - 1))]!);
}

/** What one frame will take and how noisy it will be: samples lower an error by their root. */
function foresee(
  { setup, perSample, samples, errors }: Probe,
  settings: RenderSettings,
): { seconds: number; noise: number } {
  const pixels = pixelsOf(settings);
  const counts = countsOf(errors, samples, settings);
  let share = 1;
  const mean = counts.reduce((sum, n) => sum + n, 0) / Math.max(1, counts.length);
  const whole = pixels * mean * perSample;
  if (settings.secondsPerFrame > 0 && setup + whole > settings.secondsPerFrame) {
    share = Math.max(0.02, (settings.secondsPerFrame - setup) / whole);
  }
  const squares = errors.reduce((sum, error, k) => sum + (error ** 2 * samples) / (counts[k]! * share), 0);
  return { seconds: setup + whole * share, noise: Math.sqrt(squares / Math.max(1, errors.length)) };
}

/** Samples that pixels will get that had such errors with so many samples. */
function countsOf(errors: number[], had: number, { samples, noiseTarget, secondsPerFrame }: RenderSettings): number[] {
  if (noiseTarget > 0)
    return errors.map((error) => Math.min(samples, Math.max(FIRST_PASS, had * (error / noiseTarget) ** 2)));
  // What time ends is spread as well, but no pixel gets more than was set.
  return secondsPerFrame > 0 || samples <= PILOT ? errors.map(() => samples) : shareOut(errors, samples);
}

function pixelsOf({ width, height, region }: RenderSettings): number {
  return width * height * (region ? (region.right - region.left) * (region.bottom - region.top) : 1);
}

/** Time and noise of a take from probes of some of its frames. @param frames how many will be traced */
export function predictTake(probes: Probe[], settings: RenderSettings, frames: number): Prediction {
  const foreseen = probes.map((probe) => foresee(probe, settings));
  const perFrame = estimate(
    foreseen.map(({ seconds }) => seconds),
    UNSTEADY,
  );
  const { expected, low, high } = perFrame;
  return {
    secondsPerFrame: perFrame,
    seconds: { expected: expected * frames, low: low * frames, high: high * frames },
    noise: estimate(
      foreseen.map(({ noise }) => noise),
      0.05,
    ),
    frames,
  };
}

/** Mean with two standard errors on both sides, and never less than a share of the mean. */
function estimate(values: number[], least: number): Estimate {
  const expected = values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length);
  const variance = values.reduce((sum, v) => sum + (v - expected) ** 2, 0) / Math.max(1, values.length - 1);
  const slack = Math.max(least * expected, (2 * Math.sqrt(variance)) / Math.sqrt(Math.max(1, values.length)));
  return { expected, low: Math.max(0, expected - slack), high: expected + slack };
}
