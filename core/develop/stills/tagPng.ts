import { zlibSync } from 'fflate';

/** What a picture file says of its colours and of how large a pixel is on paper. */
export interface Tags {
  /** An ICC profile. */
  profile: Uint8Array;
  dotsPerInch: number;
}

const INCH_IN_METRES = 0.0254;
/** Chunks that say what is said here. */
const REPLACED = new Set(['iCCP', 'sRGB', 'gAMA', 'cHRM', 'pHYs']);

/**
 * A PNG with its profile and its size on paper, its pixels untouched (W3C, PNG Specification, Third Edition: iCCP, pHYs).
 * @param png as an encoder wrote it
 */
export function tagPng(png: Uint8Array, { profile, dotsPerInch }: Tags): Uint8Array<ArrayBuffer> {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const parts: Uint8Array[] = [png.subarray(0, 8)];
  for (let at = 8; at + 12 <= png.length;) {
    const end = at + 12 + view.getUint32(at);
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8));
    if (!REPLACED.has(type)) parts.push(png.subarray(at, end));
    // Both have to stand before the pixels, and a profile before a palette.
    if (type === 'IHDR') {
      parts.push(chunk('iCCP', [...text('sRGB'), 0, 0, ...zlibSync(profile)]));
      const perMetre = Math.round(dotsPerInch / INCH_IN_METRES);
      parts.push(chunk('pHYs', [...word(perMetre), ...word(perMetre), 1]));
    }
    at = end;
  }
  const out = new Uint8Array(parts.reduce((sum, each) => sum + each.length, 0));
  let at = 0;
  for (const each of parts) {
    out.set(each, at);
    at += each.length;
  }
  return out;
}

const text = (value: string) => [...new TextEncoder().encode(value)];
const word = (value: number) => [value >>> 24, (value >>> 16) & 255, (value >>> 8) & 255, value & 255];

function chunk(type: string, data: number[]): Uint8Array {
  const body = new Uint8Array([...text(type), ...data]);
  return new Uint8Array([...word(data.length), ...body, ...word(crc(body))]);
}

/** CRC-32 as PNG takes it (ISO 3309). */
function crc(bytes: Uint8Array): number {
  let value = 0xffffffff;
  for (const byte of bytes) {
    value ^= byte;
    for (let k = 0; k < 8; k++) value = (value >>> 1) ^ (value & 1 ? 0xedb88320 : 0);
  }
  return (value ^ 0xffffffff) >>> 0;
}
