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
  const share = 1 / (2 * radius + 1);
  for (let line = 0; line < lines; line++) {
    const first = line * stride;
    const last = first + (length - 1) * step;
    const place = (k: number) => Math.min(last, Math.max(first, first + k * step));
    let [r, g, b] = [0, 0, 0];
    for (let k = -radius; k <= radius; k++) {
      const at = place(k);
      r += source[at]!;
      g += source[at + 1]!;
      b += source[at + 2]!;
    }
    for (let k = 0; k < length; k++) {
      const to = first + k * step;
      out[to] = r * share;
      out[to + 1] = g * share;
      out[to + 2] = b * share;
      const enters = Math.min(last, to + (radius + 1) * step);
      const leaves = Math.max(first, to - radius * step);
      r += source[enters]! - source[leaves]!;
      g += source[enters + 1]! - source[leaves + 1]!;
      b += source[enters + 2]! - source[leaves + 2]!;
    }
  }
  return out;
}
