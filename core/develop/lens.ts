import type { Look } from '../document';

/** Four linear values a pixel, alpha premultiplied, top row first. */
export interface Light {
  width: number;
  height: number;
  pixels: Float32Array;
}

/** Largest part of its distance from the middle by which a zoom draws a point, and by which red and blue are apart. */
const MOST_ZOOM = 0.4;
const MOST_FRINGING = 0.01;
const MOST_STEPS = 96;

/** Light drawn out from the middle of the picture, as by a lens that is zoomed while the shutter is open; the mean over its way. */
export function zoomBlur(light: Light, amount: number): Float32Array {
  const { width, height, pixels } = light;
  const out = new Float32Array(pixels.length);
  const [middleX, middleY] = [width / 2, height / 2];
  const reach = MOST_ZOOM * amount;
  const sum = new Float64Array(4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - middleX, y + 0.5 - middleY];
      const steps = Math.min(MOST_STEPS, 1 + Math.ceil(Math.hypot(dx, dy) * reach));
      sum.fill(0);
      for (let step = 0; step < steps; step++) {
        const scale = 1 - (reach * (step + 0.5)) / steps;
        addAt(light, middleX + dx * scale, middleY + dy * scale, sum);
      }
      for (let k = 0; k < 4; k++) out[(y * width + x) * 4 + k] = sum[k]! / steps;
    }
  }
  return out;
}

/** Red a little larger and blue a little smaller than green, about the middle: lateral colour of a simple lens. */
export function fringe(light: Light, amount: number): Float32Array {
  const { width, height, pixels } = light;
  const out = pixels.slice();
  const [middleX, middleY] = [width / 2, height / 2];
  const sum = new Float64Array(4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - middleX, y + 0.5 - middleY];
      for (const [channel, side] of [[0, -1], [2, 1]] as const) {
        const scale = 1 + side * MOST_FRINGING * amount;
        sum.fill(0);
        addAt(light, middleX + dx * scale, middleY + dy * scale, sum);
        out[(y * width + x) * 4 + channel] = sum[channel]!;
      }
    }
  } // prettier-ignore
  return out;
}

/** Adds the light at a place in pixels, blended between neighbours; beyond the edges the edge stands. */
function addAt({ width, height, pixels }: Light, px: number, py: number, sum: Float64Array): void {
  const x = Math.min(width - 1, Math.max(0, px - 0.5));
  const y = Math.min(height - 1, Math.max(0, py - 0.5));
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [right, low] = [Math.min(width - 1, left + 1), Math.min(height - 1, top + 1)];
  const [fx, fy] = [x - left, y - top];
  const [a, b] = [(top * width + left) * 4, (top * width + right) * 4];
  const [c, d] = [(low * width + left) * 4, (low * width + right) * 4];
  for (let k = 0; k < 4; k++) {
    const upper = pixels[a + k]! + (pixels[b + k]! - pixels[a + k]!) * fx;
    const lower = pixels[c + k]! + (pixels[d + k]! - pixels[c + k]!) * fx;
    sum[k]! += upper + (lower - upper) * fy;
  }
}

/** What a lens does to light that has passed it, in the order in which it does so; the same array where it does nothing. */
export function throughLens(light: Light, look: Pick<Look, 'zoomBlur' | 'fringing'>): Float32Array {
  const drawn = look.zoomBlur > 0 ? zoomBlur(light, look.zoomBlur) : light.pixels;
  return look.fringing > 0 ? fringe({ ...light, pixels: drawn }, look.fringing) : drawn;
}
