import type { Look } from '../../document';
import { grade } from '../grade';
import { luma, SEEN, type ShownPicture } from './scope';

/** What the mean of a picture is exposed to, and the level that all but the brightest half of a hundredth stay below: linear. */
const MEAN = 0.18;
const BRIGHT = 0.9;
const BRIGHT_PART = 0.995;
/** Levels of grey that the look is read back by. */
const STEPS = 1024;
const BRIGHTEST = 16;

/**
 * Stops by which the exposure of a look would have to change, so that a picture developed by it is neither dark nor burnt: the
 * logarithmic mean of what is seen at middle grey, unless that would clip more than half of a hundredth.
 * What is clipped in the picture can be no brighter than white here: where much is, it takes another turn.
 */
export function meterExposure({ pixels }: ShownPicture, look: Look): number {
  const light = lightOf(look);
  const counts = new Float64Array(256);
  let seen = 0;
  for (let at = 0; at < pixels.length; at += 4) {
    if (pixels[at + 3]! < SEEN) continue;
    counts[(luma(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!) + 0.5) | 0]!++;
    seen++;
  }
  if (seen === 0) return 0;
  let sum = 0;
  let below = 0;
  let bright = 0;
  counts.forEach((count, level) => {
    // Black has no logarithm: it counts as very dark.
    sum += count * Math.log2(Math.max(1e-3, light[level]!));
    below += count;
    if (bright === 0 && below >= BRIGHT_PART * seen) bright = Math.max(1e-3, light[level]!);
  });
  const wanted = Math.log2(MEAN) - sum / seen;
  const most = Math.log2(BRIGHT / bright);
  // Something that shines may clip, but not for the sake of what is dark alone.
  return Math.max(-8, Math.min(8, Math.min(wanted, Math.max(most, wanted - 2))));
}

/** Exposed linear light of grey for each coded level, as a look develops it. */
function lightOf(look: Look): Float64Array {
  const plain = { ...look, exposure: 0, balanceKelvin: 6500, balanceTint: 0, saturation: 1, lookup: null };
  const value = (k: number) => BRIGHTEST * (k / (STEPS - 1)) ** 2;
  const greys = new Float32Array(STEPS * 4);
  for (let k = 0; k < STEPS; k++) greys.fill(value(k), k * 4, k * 4 + 3).fill(1, k * 4 + 3, k * 4 + 4);
  const coded = grade(greys, plain, null);
  const out = new Float64Array(256);
  let k = 0;
  for (let level = 0; level < 256; level++) {
    while (k < STEPS - 1 && coded[k * 4 + 1]! * 255 < level) k++;
    out[level] = value(k);
  }
  return out;
}
