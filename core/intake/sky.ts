import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js';
import { UserProblem } from '../document';

/** Equirectangular surroundings, top row first, three linear values a pixel. */
export interface Surroundings {
  width: number;
  height: number;
  pixels: Float32Array;
  /** Pixels with light below nothing or beyond what is kept, which was brought to 0 or to the most. */
  clipped: number;
}

const MOST_PIXELS = 8192 * 4096;
/** Largest value of a half float, which is the most that is kept. */
const BRIGHTEST = 65504;

/**
 * Reads an `.hdr` or `.exr` surroundings picture. How large it says it is, is looked at before anything is unpacked. Damaged files can
 * keep the reader busy without an end: call it where it can be stopped.
 * @throws UserProblem `surroundings-broken`
 */
export function readSurroundings(bytes: Uint8Array<ArrayBuffer>, name: string): Surroundings {
  const refuse = (why: string) =>
    new UserProblem(
      'surroundings-broken',
      `"${name}" cannot serve as surroundings: ${why}. Choose an equirectangular .hdr or .exr picture, twice as wide as high.`,
      422,
    );
  const exr = isExr(bytes);
  if (!exr && !isHdr(bytes)) throw refuse('it is neither an HDR nor an EXR picture');
  const size = exr ? exrSize(bytes) : hdrSize(bytes);
  if (!size) throw refuse('it is damaged');
  if (size.width * size.height > MOST_PIXELS) throw refuse('it is larger than 8192 × 4096 pixels');
  let picture: { width: number; height: number; data: Float32Array };
  try {
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
    const loader = exr ? new EXRLoader() : new HDRLoader();
    loader.setDataType(FloatType);
    picture = loader.parse(buffer) as unknown as typeof picture;
  } catch {
    throw refuse('it is damaged');
  }
  const { width, height, data } = picture ?? {};
  if (!(width > 1 && height > 1) || !(data instanceof Float32Array)) throw refuse('it holds no picture');
  const channels = Math.round(data.length / (width * height));
  if (channels < 1) throw refuse('it is damaged');
  const pixels = new Float32Array(width * height * 3);
  let clipped = 0;
  for (let y = 0; y < height; y++) {
    // EXR rows come bottom first from the reader, HDR rows top first.
    const from = exr ? height - 1 - y : y;
    for (let x = 0; x < width; x++) {
      let outside = false;
      for (let k = 0; k < 3; k++) {
        const value = data[(from * width + x) * channels + Math.min(k, channels - 1)]!;
        const kept = Number.isFinite(value) ? Math.min(BRIGHTEST, Math.max(0, value)) : 0;
        if (kept !== value) outside = true;
        pixels[(y * width + x) * 3 + k] = kept;
      }
      if (outside) clipped++;
    }
  }
  return { width, height, pixels, clipped };
}

interface Size {
  width: number;
  height: number;
}

export const isExr = (bytes: Uint8Array): boolean =>
  bytes.length > 8 && bytes[0] === 0x76 && bytes[1] === 0x2f && bytes[2] === 0x31 && bytes[3] === 0x01;

export const isHdr = (bytes: Uint8Array): boolean => bytes[0] === 0x23 && bytes[1] === 0x3f; // #?

/** Most attributes of a header that are looked through. */
const MOST_ATTRIBUTES = 1000;

/** Size of an OpenEXR picture by the data window in its first header; null where there is none. */
export function exrSize(bytes: Uint8Array): Size | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 8;
  const text = (): string | null => {
    const end = bytes.indexOf(0, at);
    if (end < 0 || end - at > 255) return null;
    const found = String.fromCharCode(...bytes.subarray(at, end));
    at = end + 1;
    return found;
  };
  for (let k = 0; k < MOST_ATTRIBUTES; k++) {
    const attribute = text();
    if (!attribute) return null;
    const type = text();
    if (type === null || at + 4 > bytes.length) return null;
    const length = view.getInt32(at, true);
    at += 4;
    if (length < 0 || at + length > bytes.length) return null;
    if (attribute === 'dataWindow' && type === 'box2i' && length === 16) {
      const [left, top, right, bottom] = [0, 4, 8, 12].map((offset) => view.getInt32(at + offset, true)) as [number, number, number, number]; // prettier-ignore
      const size = { width: right - left + 1, height: bottom - top + 1 };
      return size.width > 0 && size.height > 0 ? size : null;
    }
    at += length;
  }
  return null;
}

/** Bytes of a Radiance header that are looked through. */
const MOST_HEADER = 65_536;

/** Size of a Radiance picture by the line that ends its header; null where there is none. */
export function hdrSize(bytes: Uint8Array): Size | null {
  const header = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_HEADER));
  const line = /\n\s*-Y\s+(\d{1,9})\s+\+X\s+(\d{1,9})\s*\n/.exec(header);
  return line ? { height: Number(line[1]), width: Number(line[2]) } : null;
}
