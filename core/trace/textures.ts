import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';
import type { FinishMap } from '../document';
import { decodeSrgb, encodeSrgb } from '../optics';

/** A picture on a surface: four bytes a pixel, top row first. */
export interface TexturePicture {
  width: number;
  height: number;
  /** Red, green, blue, opacity. */
  pixels: Uint8Array;
}

/**
 * Copies a picture into kernel memory with levels each half the size of the one before.
 * @param over address of one that may be written over, where it has the same size
 * @returns its address
 */
export function loadTexture(
  heap: KernelHeap,
  picture: TexturePicture,
  coding: FinishMap['coding'],
  over: number | null = null,
): number {
  const levels = [picture];
  while (levels.length < L.TEXTURE_LEVELS) {
    const last = levels.at(-1)!;
    if (last.width === 1 && last.height === 1) break;
    levels.push(halved(last, coding));
  }
  const same = over !== null && isAsLarge(heap, over, picture);
  const at = same ? over : heap.allocate(L.TEXTURE_SIZE);
  const places = levels.map((level, k) => {
    const place = same ? heap.views().u32[at / 4 + 4 + k]! : heap.allocate(level.pixels.length);
    new Uint8Array(heap.memory.buffer, place, level.pixels.length).set(level.pixels);
    return place;
  });
  const { u32 } = heap.views();
  const encoding = coding === 'srgb' ? L.ENCODING_SRGB8 : L.ENCODING_LINEAR8;
  u32.set([picture.width, picture.height, levels.length, encoding, ...places], at / 4);
  return at;
}

function isAsLarge(heap: KernelHeap, at: number, { width, height }: TexturePicture): boolean {
  const { u32 } = heap.views();
  return u32[at / 4] === width && u32[at / 4 + 1] === height;
}

/** Light of each display code, and the codes of 4096 steps of light. */
const LIGHT = Float64Array.from({ length: 256 }, (_, code) => decodeSrgb(code / 255));
const CODES = Uint8Array.from({ length: 4096 }, (_, step) => Math.round(encodeSrgb(step / 4095) * 255));

/** Half the size by means of two by two pixels, of light rather than of codes where the picture holds colours. */
function halved({ width, height, pixels }: TexturePicture, coding: FinishMap['coding']): TexturePicture {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  const [right, down] = [width > 1 ? 4 : 0, height > 1 ? width * 4 : 0];
  for (let y = 0, to = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const from = (2 * y * width + 2 * x) * 4;
      for (let c = 0; c < 4; c++, to++) {
        const [p, q] = [pixels[from + c]!, pixels[from + right + c]!];
        const [r, s] = [pixels[from + down + c]!, pixels[from + down + right + c]!];
        out[to] =
          coding === 'srgb' && c < 3
            ? CODES[Math.round(((LIGHT[p]! + LIGHT[q]! + LIGHT[r]! + LIGHT[s]!) / 4) * 4095)]!
            : (p + q + r + s + 2) >> 2;
      }
    }
  }
  return { width: w, height: h, pixels: out };
}
