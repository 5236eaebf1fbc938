import { UserProblem } from '../document';
import { floatFileSize, isFloatFile, readFloatFile } from './floatFile';

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
  if (!isFloatFile(bytes)) throw refuse('it is neither an HDR nor an EXR picture');
  const size = floatFileSize(bytes);
  if (!size) throw refuse('it is damaged');
  if (size.width * size.height > MOST_PIXELS) throw refuse('it is larger than 8192 × 4096 pixels');
  const file = readFloatFile(bytes);
  if (!file || file.width < 2 || file.height < 2) throw refuse(file ? 'it holds no picture' : 'it is damaged');
  const { width, height, channels, data, upwards } = file;
  const pixels = new Float32Array(width * height * 3);
  let clipped = 0;
  for (let y = 0; y < height; y++) {
    const from = upwards ? height - 1 - y : y;
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
