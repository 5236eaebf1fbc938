import { decodeSrgb, encodeSrgb } from '../optics';

/** Coded values as bytes, with dither. */
export function toBytes(coded: Float32Array): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(coded.length);
  for (let at = 0; at < coded.length; at += 4) {
    // A frame's dither is always the same, so that a held frame stands still in the film.
    const dither = noise(at >> 2) - 0.5;
    for (let k = at; k < at + 3; k++) out[k] = Math.min(255, Math.max(0, Math.round(coded[k]! * 255 + dither)));
    out[at + 3] = Math.round(coded[at + 3]! * 255);
  }
  return out;
}

/** Coded values as words of sixteen bits, which need no dither. */
export function toWords(coded: Float32Array): Uint16Array<ArrayBuffer> {
  const out = new Uint16Array(coded.length);
  for (let k = 0; k < coded.length; k++) out[k] = Math.min(65_535, Math.max(0, Math.round(coded[k]! * 65_535)));
  return out;
}

/** Fills what is open with a colour, as light; changes the values. @param ground linear */
export function fillOpen(coded: Float32Array, ground: readonly [number, number, number]): void {
  for (let at = 0; at < coded.length; at += 4) {
    const alpha = coded[at + 3]!;
    if (alpha >= 1) continue;
    for (let k = 0; k < 3; k++) {
      const light = decodeSrgb(Math.min(1, Math.max(0, coded[at + k]!)));
      coded[at + k] = encodeSrgb(light * alpha + ground[k]! * (1 - alpha));
    }
    coded[at + 3] = 1;
  }
}

/** A fixed number in [0, 1) for every pixel. */
function noise(index: number): number {
  let x = Math.imul(index ^ (index >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return ((x ^ (x >>> 15)) >>> 8) / 16777216;
}
