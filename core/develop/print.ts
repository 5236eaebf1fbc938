import type { Look } from '../document';
import { decodeSrgb, encodeSrgb } from '../optics';

/** Coded display values: four a pixel, alpha straight, top row first. */
export interface Print {
  width: number;
  height: number;
  pixels: Float32Array;
}

/** Standard deviation of the strongest grain in middle tones, of coded values. */
const MOST_GRAIN = 0.12;

/** What a lens and film leave on the finished picture, in this order: vignette, sharpening, grain. Changes the pixels. */
export function finishPrint(print: Print, look: Look, frame: number): void {
  if (look.vignette > 0) darkenCorners(print, look);
  if (look.sharpen > 0) sharpen(print, look.sharpen);
  if (look.grain > 0) addGrain(print, look, frame);
}

/** Takes linear light away towards the corners, smoothly from a part of the way to them on. */
function darkenCorners({ width, height, pixels }: Print, { vignette, vignetteSize }: Look): void {
  const corner = Math.hypot(width, height) / 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const away = Math.hypot(x + 0.5 - width / 2, y + 0.5 - height / 2) / corner;
      const t = Math.max(0, (away - 1 + vignetteSize) / vignetteSize);
      if (t <= 0) continue;
      const left = 1 - vignette * t * t * (3 - 2 * Math.min(1, t));
      const at = (y * width + x) * 4;
      for (let k = at; k < at + 3; k++) pixels[k] = encodeSrgb(decodeSrgb(Math.max(0, pixels[k]!)) * left);
    }
  }
}

/** Adds what sets a pixel's luminance apart from that of the eight around it (unsharp mask by a bell of three by three). */
function sharpen({ width, height, pixels }: Print, amount: number): void {
  const light = new Float32Array(width * height);
  for (let k = 0; k < light.length; k++)
    light[k] = 0.2126 * pixels[k * 4]! + 0.7152 * pixels[k * 4 + 1]! + 0.0722 * pixels[k * 4 + 2]!;
  for (let y = 0; y < height; y++) {
    const [above, below] = [Math.max(0, y - 1) * width, Math.min(height - 1, y + 1) * width];
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      const row = y * width;
      const soft =
        (4 * light[row + x]! +
          2 * (light[row + left]! + light[row + right]! + light[above + x]! + light[below + x]!) +
          light[above + left]! + light[above + right]! + light[below + left]! + light[below + right]!) / 16; // prettier-ignore
      const more = amount * (light[row + x]! - soft);
      for (let k = (row + x) * 4; k < (row + x) * 4 + 3; k++) pixels[k]! += more;
    }
  }
}

/** Grain of a size, strongest in middle tones, another one on each frame. */
function addGrain({ width, height, pixels }: Print, { grain, grainSize }: Look, frame: number): void {
  const size = Math.max(1, grainSize * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      const [u, v] = [x / size, y / size];
      for (let k = 0; k < 3; k++) {
        // Mostly alike in all three layers of the film, a little of its own in each.
        const value = 0.9 * grainAt(u, v, frame * 4 + 3) + 0.43 * grainAt(u, v, frame * 4 + k);
        const tone = Math.min(1, Math.max(0, pixels[at + k]!));
        pixels[at + k]! += MOST_GRAIN * grain * value * (0.15 + 3.4 * tone * (1 - tone));
      }
    }
  }
}

/** Noise of standard deviation one between the points of a lattice, blended so that it is as strong between them as on them. */
function grainAt(u: number, v: number, seed: number): number {
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [fu, fv] = [u - i, v - j];
  const [a, b, c, d] = [(1 - fu) * (1 - fv), fu * (1 - fv), (1 - fu) * fv, fu * fv];
  const mixed =
    a * spread(i, j, seed) + b * spread(i + 1, j, seed) + c * spread(i, j + 1, seed) + d * spread(i + 1, j + 1, seed);
  return mixed / Math.sqrt(a * a + b * b + c * c + d * d);
}

/** A fixed number of mean zero and standard deviation one for every point of a lattice. */
function spread(i: number, j: number, seed: number): number {
  let x = Math.imul(i, 0x9e3779b1) ^ Math.imul(j, 0x85ebca6b) ^ Math.imul(seed, 0xc2b2ae35);
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  x ^= x >>> 15;
  // The sum of two even numbers: a triangle, near enough to a bell.
  return (((x & 0xffff) + (x >>> 16)) / 65536 - 1) * Math.sqrt(6);
}
