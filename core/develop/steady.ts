import { boxMean } from './boxMean';
import type { FrameGuides, LinearFrame } from './frame';
import { luminance } from './luminance';

/** Frames of the same take beside the one that is developed; null where there is none, or where it is the same picture. */
export interface Neighbours {
  before: LinearFrame | null;
  after: LinearFrame | null;
}

/** Colour below which light is not divided by it. */
const LEAST_ALBEDO = 0.04;
/** Squared differences of normals and albedos from which on two pixels show different things. */
const NORMAL_APART = 0.02;
const ALBEDO_APART = 0.004;
/** Part of its depth that a surface may come nearer or go away from one frame to the next. */
const DEPTH_APART = 0.03;
/** Light that differs by up to this many deviations is taken for the same. */
const SAME_LIGHT = 2;

/**
 * A frame with what its neighbours saw of the same surfaces laid over it along the motion between them: its noise becomes that
 * of three frames, and no longer changes wholly from one to the next. Where something comes into view, or the light on it
 * changes, the frame stays alone.
 * @param amount 0 leaves the frame as it is, 1 gives the neighbours the same weight as the frame
 * @returns the frame itself where no neighbour helps
 */
export function steadyFrame(frame: LinearFrame, { before, after }: Neighbours, amount: number): LinearFrame {
  const { width, height, guides } = frame;
  if (!guides?.noise || amount <= 0) return frame;
  const fits = (other: LinearFrame | null): other is LinearFrame & { guides: FrameGuides } =>
    other?.guides?.noise !== undefined && other.width === width && other.height === height;
  const own = open(frame, guides);
  const sources: Source[] = [];
  if (fits(after) && guides.motion) sources.push({ ...open(after, after.guides), from: forwards(guides.motion) });
  if (fits(before) && before.guides.motion)
    sources.push({ ...open(before, before.guides), from: backwards(before.guides.motion, width, height) });
  if (sources.length === 0) return frame;
  const beauty = frame.beauty.slice();
  const noise = guides.noise.slice();
  const sum: Sum = { light: [0, 0, 0], weight: 0, variance: 0 };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      const alpha = frame.beauty[p * 4 + 3]!;
      sum.light.fill(0);
      sum.weight = 1;
      sum.variance = guides.noise[p]! ** 2;
      for (const source of sources) addSource(sum, own, source, x, y, width, height, amount);
      if (sum.weight === 1) continue;
      for (let k = 0; k < 3; k++) {
        const tint = Math.max(LEAST_ALBEDO, own.albedo[k]![p]!);
        beauty[p * 4 + k] = (frame.beauty[p * 4 + k]! + sum.light[k]! * tint) / sum.weight;
      }
      beauty[p * 4 + 3] = alpha;
      noise[p] = Math.sqrt(sum.variance) / sum.weight;
    }
  }
  return { ...frame, beauty, guides: { ...guides, noise } };
}

interface Opened {
  /** Light without the colour of the surface, three values a pixel. */
  light: Float32Array;
  /** Channels of light, and the deviation of its luminance, means over 3 × 3 pixels. */
  levels: Float32Array[];
  deviation: Float32Array;
  noise: Float32Array;
  normal: Float32Array[];
  albedo: Float32Array[];
  depth: Float32Array;
}

interface Source extends Opened {
  /** Where a pixel's surface is in the source's picture: writes to `place`. */
  from: (p: number, x: number, y: number) => void;
}

interface Sum {
  light: [number, number, number];
  weight: number;
  variance: number;
}

const place: [number, number] = [0, 0];

function forwards([motionX, motionY]: Float32Array[]): Source['from'] {
  return (p, x, y) => {
    place[0] = x + motionX![p]!;
    place[1] = y + motionY![p]!;
  };
}

/** The motion of the frame before leads here: where from is found by going back by the motion that is met there. */
function backwards([motionX, motionY]: Float32Array[], width: number, height: number): Source['from'] {
  return (_, x, y) => {
    let [fromX, fromY] = [x, y];
    for (let step = 0; step < 3; step++) {
      const [i, j] = [Math.round(fromX), Math.round(fromY)];
      if (i < 0 || j < 0 || i >= width || j >= height) break;
      fromX = x - motionX![j * width + i]!;
      fromY = y - motionY![j * width + i]!;
    }
    place[0] = fromX;
    place[1] = fromY;
  };
}

function open({ width, height, beauty }: LinearFrame, { normal, albedo, depth, noise }: FrameGuides): Opened {
  const count = width * height;
  const light = new Float32Array(count * 3);
  const levels = [0, 1, 2].map(() => new Float32Array(count));
  const variance = new Float32Array(count);
  for (let p = 0; p < count; p++) {
    for (let k = 0; k < 3; k++) {
      light[p * 3 + k] = beauty[p * 4 + k]! / Math.max(LEAST_ALBEDO, albedo[k]![p]!);
      levels[k]![p] = light[p * 3 + k]!;
    }
    const tint = luminance(albedo[0]![p]!, albedo[1]![p]!, albedo[2]![p]!);
    variance[p] = (noise![p]! / Math.max(LEAST_ALBEDO, tint)) ** 2;
  }
  const deviation = boxMean(variance, width, 1);
  // The mean of nine pixels has a ninth of their variance.
  for (let p = 0; p < count; p++) deviation[p] = Math.sqrt(deviation[p]! / 9);
  const means = levels.map((level) => boxMean(level, width, 1));
  return { light, levels: means, deviation, noise: noise!, normal, albedo, depth };
}

/** Adds what a neighbour saw of the surface of one pixel, blended from the four pixels about its place there. */
function addSource(
  sum: Sum,
  own: Opened,
  source: Source,
  x: number,
  y: number,
  width: number,
  height: number,
  amount: number,
): void {
  const p = y * width + x;
  source.from(p, x, y);
  const [left, top] = [Math.floor(place[0]), Math.floor(place[1])];
  const [partX, partY] = [place[0] - left, place[1] - top];
  let total = 0;
  let [r, g, b, noise] = [0, 0, 0, 0];
  for (let tap = 0; tap < 4; tap++) {
    const [i, j] = [left + (tap & 1), top + (tap >> 1)];
    const weight = (tap & 1 ? partX : 1 - partX) * (tap >> 1 ? partY : 1 - partY);
    if (weight < 1e-3 || i < 0 || j < 0 || i >= width || j >= height) continue;
    const q = j * width + i;
    if (!sameSurface(own, p, source, q)) continue;
    const w = weight * sameLight(own, p, source, q);
    total += w;
    r += w * source.light[q * 3]!;
    g += w * source.light[q * 3 + 1]!;
    b += w * source.light[q * 3 + 2]!;
    noise += w * source.noise[q]!;
  }
  if (total < 1e-3) return;
  const share = amount / Math.max(total, 1);
  const weight = total * share;
  sum.light[0] += r * share;
  sum.light[1] += g * share;
  sum.light[2] += b * share;
  sum.weight += weight;
  sum.variance += (noise * share) ** 2;
}

function sameSurface(a: Opened, p: number, b: Opened, q: number): boolean {
  const depth = a.depth[p]!;
  if (Math.abs(depth - b.depth[q]!) > DEPTH_APART * Math.max(1, depth)) return false;
  let [normal, albedo] = [0, 0];
  for (let k = 0; k < 3; k++) {
    normal += (a.normal[k]![p]! - b.normal[k]![q]!) ** 2;
    albedo += (a.albedo[k]![p]! - b.albedo[k]![q]!) ** 2;
  }
  return normal < NORMAL_APART && albedo < ALBEDO_APART;
}

/** 1 where the light around two pixels is the same but for its noise, towards 0 where it is not. */
function sameLight(a: Opened, p: number, b: Opened, q: number): number {
  // A lamp that turns from red to green as bright is another light, though its luminance stays.
  const at = (k: number) => a.levels[k]![p]!;
  const off = (k: number) => Math.abs(at(k) - b.levels[k]![q]!);
  const [level, change] = [luminance(at(0), at(1), at(2)), luminance(off(0), off(1), off(2))];
  const chance = a.deviation[p]! ** 2 + b.deviation[q]! ** 2 + (0.01 * level) ** 2 + 1e-10;
  const apart = change ** 2 / (SAME_LIGHT ** 2 * chance);
  return apart <= 1 ? 1 : 1 / (apart * apart);
}
