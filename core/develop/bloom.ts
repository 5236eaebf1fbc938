import type { Look } from '../document';
import type { LinearFrame } from './frame';

const PASSES = 3;

/**
 * Spreads part of the light above the threshold over its surroundings, as a lens does; no light is lost or won inside the
 * picture. Three box blurs stand for a Gaussian (Wells, Efficient Synthesis of Gaussian Filters, 1986).
 * @param gain factor of the exposure, so that the threshold counts in exposed values
 */
export function addBloom({ width, height, beauty }: LinearFrame, look: Look, gain: number): Float32Array {
  const bright = new Float32Array(beauty.length);
  const threshold = look.bloomThreshold / gain;
  for (let at = 0; at < beauty.length; at += 4) {
    const most = Math.max(beauty[at]!, beauty[at + 1]!, beauty[at + 2]!);
    const share = most > threshold ? (most - threshold) / most : 0;
    for (let k = 0; k < 3; k++) bright[at + k] = beauty[at + k]! * share;
  }
  const radius = Math.max(1, Math.round((look.bloomRadius * height) / 2));
  let spread: Float32Array = bright.slice();
  for (let pass = 0; pass < PASSES; pass++) {
    spread = blurLines(spread, width, height, 4, width * 4, radius);
    spread = blurLines(spread, height, width, width * 4, 4, radius);
  }
  const result = beauty.slice();
  for (let at = 0; at < beauty.length; at += 4) {
    for (let k = at; k < at + 3; k++) result[k] = beauty[k]! + look.bloomAmount * (spread[k]! - bright[k]!);
  }
  return result;
}

/** A running mean along lines; beyond the ends the edge value stands. */
function blurLines(
  source: Float32Array,
  length: number,
  lines: number,
  step: number,
  stride: number,
  radius: number,
): Float32Array {
  const out = new Float32Array(source.length);
  const width = 2 * radius + 1;
  for (let line = 0; line < lines; line++) {
    for (let channel = 0; channel < 3; channel++) {
      const first = line * stride + channel;
      const at = (k: number) => source[first + Math.min(length - 1, Math.max(0, k)) * step]!;
      let sum = 0;
      for (let k = -radius; k <= radius; k++) sum += at(k);
      for (let k = 0; k < length; k++) {
        out[first + k * step] = sum / width;
        sum += at(k + radius + 1) - at(k - radius);
      }
    }
  }
  return out;
}
