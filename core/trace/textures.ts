import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';
import type { FinishMap } from '../document';
import { fromHalf, toHalf } from '../develop';
import { decodeSrgb, encodeSrgb } from '../optics';

/** A picture on a surface, top row first. */
export interface TexturePicture {
  width: number;
  height: number;
  /** Red, green, blue, opacity: as codes of eight bits, or as half floats by their bits. */
  pixels: Uint8Array | Uint16Array;
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
  const levels = [picture.pixels instanceof Uint16Array && coding === 'srgb' ? decoded(picture) : picture];
  while (levels.length < L.TEXTURE_LEVELS) {
    const last = levels.at(-1)!;
    if (last.width === 1 && last.height === 1) break;
    levels.push(halved(last, coding));
  }
  const deep = picture.pixels instanceof Uint16Array;
  const encoding = deep ? L.ENCODING_HALF : coding === 'srgb' ? L.ENCODING_SRGB8 : L.ENCODING_LINEAR8;
  const same = over !== null && isAsLarge(heap, over, picture, deep);
  const at = same ? over : heap.allocate(L.TEXTURE_SIZE);
  const places = levels.map((level, k) => {
    const place = same ? heap.views().u32[at / 4 + 4 + k]! : heap.allocate(level.pixels.byteLength);
    const bytes = new Uint8Array(level.pixels.buffer, level.pixels.byteOffset, level.pixels.byteLength);
    new Uint8Array(heap.memory.buffer, place, bytes.length).set(bytes);
    return place;
  });
  const { u32 } = heap.views();
  u32.set([picture.width, picture.height, levels.length, encoding, ...places], at / 4);
  return at;
}

function isAsLarge(heap: KernelHeap, at: number, { width, height }: TexturePicture, deep: boolean): boolean {
  const { u32 } = heap.views();
  const wasDeep = u32[at / 4 + 3] === L.ENCODING_HALF;
  return u32[at / 4] === width && u32[at / 4 + 1] === height && wasDeep === deep;
}

/** Light of each display code, and the codes of 4096 steps of light. */
const LIGHT = Float64Array.from({ length: 256 }, (_, code) => decodeSrgb(code / 255));
const CODES = Uint8Array.from({ length: 4096 }, (_, step) => Math.round(encodeSrgb(step / 4095) * 255));

/** Colours of a deep picture that are coded for a display, as light. */
function decoded({ width, height, pixels }: TexturePicture): TexturePicture {
  const light = (half: number, k: number) => (k % 4 === 3 ? half : toHalf(decodeSrgb(fromHalf(half))));
  return { width, height, pixels: Uint16Array.from(pixels, light) };
}

/** Half the size by means of two by two pixels, of light rather than of codes where the picture holds colours. */
function halved({ width, height, pixels }: TexturePicture, coding: FinishMap['coding']): TexturePicture {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const deep = pixels instanceof Uint16Array;
  const out = deep ? new Uint16Array(w * h * 4) : new Uint8Array(w * h * 4);
  const [right, down] = [width > 1 ? 4 : 0, height > 1 ? width * 4 : 0];
  for (let y = 0, to = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const from = (2 * y * width + 2 * x) * 4;
      for (let c = 0; c < 4; c++, to++) {
        const [p, q] = [pixels[from + c]!, pixels[from + right + c]!];
        const [r, s] = [pixels[from + down + c]!, pixels[from + down + right + c]!];
        out[to] = deep
          ? toHalf((fromHalf(p) + fromHalf(q) + fromHalf(r) + fromHalf(s)) / 4)
          : coding === 'srgb' && c < 3
            ? CODES[Math.round(((LIGHT[p]! + LIGHT[q]! + LIGHT[r]! + LIGHT[s]!) / 4) * 4095)]!
            : (p + q + r + s + 2) >> 2;
      }
    }
  }
  return { width: w, height: h, pixels: out };
}
