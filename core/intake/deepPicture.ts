import { UserProblem } from '../document';
import { floatFileSize, readFloatFile } from './floatFile';

/** A picture of light or of plain numbers: red, green, blue and opacity as floats, top row first. */
export interface DeepPicture {
  width: number;
  height: number;
  pixels: Float32Array;
  /** Numbers that are none, or beyond what is kept: they were brought to 0 or to the most. */
  clipped: number;
  /** It was larger than is kept. */
  smaller: boolean;
}

/** Longest edge of a picture whose numbers are kept as half floats, in pixels; 8 bytes a pixel make 134 MB of it. */
export const MOST_DEEP_PIXELS = 4096;
/** Longest edge of such a file that is read at all. */
const MOST_READ = 16_384;
/** Largest value of a half float, either way. */
const MOST = 65_504;

/**
 * Reads an EXR or HDR picture. Damaged files can keep the reader busy without an end: call it where it can be stopped.
 * @throws UserProblem `picture-broken`
 */
export function readDeepFile(bytes: Uint8Array<ArrayBuffer>, name: string): DeepPicture {
  const refuse = (why: string) =>
    new UserProblem(
      'picture-broken',
      `The picture "${name}" cannot be read: ${why}. Save it again as EXR or PNG.`,
      422,
    );
  const size = floatFileSize(bytes);
  if (!size) throw refuse('it is damaged');
  if (Math.max(size.width, size.height) > MOST_READ || size.width * size.height > MOST_READ * 4096)
    throw refuse('it has more than 67 million pixels');
  const file = readFloatFile(bytes);
  if (!file) throw refuse('it is damaged');
  return deepPicture(file.width, file.height, file.channels, file.data, file.upwards);
}

/**
 * Numbers of a picture with one to four channels as they are kept: finite, and grey in all colours where there is one.
 * @param upwards rows come bottom first
 */
export function deepPicture(
  width: number,
  height: number,
  channels: number,
  data: Float32Array,
  upwards = false,
): DeepPicture {
  const pixels = new Float32Array(width * height * 4);
  const opaque = channels === 4 ? 3 : channels === 2 ? 1 : -1;
  let clipped = 0;
  for (let y = 0; y < height; y++) {
    const row = upwards ? height - 1 - y : y;
    for (let x = 0; x < width; x++) {
      const from = (row * width + x) * channels;
      for (let k = 0; k < 4; k++) {
        const value = k === 3 ? (opaque < 0 ? 1 : data[from + opaque]!) : data[from + (channels >= 3 ? k : 0)]!;
        const kept = Number.isNaN(value) ? 0 : Math.min(MOST, Math.max(-MOST, value));
        if (kept !== value) clipped++;
        pixels[(y * width + x) * 4 + k] = kept;
      }
    }
  }
  return halvedInto({ width, height, pixels, clipped, smaller: Math.max(width, height) > MOST_DEEP_PIXELS });
}

/** Halved by means of two by two pixels until it is no larger than is kept. */
function halvedInto(picture: DeepPicture): DeepPicture {
  let { width, height, pixels } = picture;
  while (Math.max(width, height) > MOST_DEEP_PIXELS) {
    const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
    const out = new Float32Array(w * h * 4);
    const [right, down] = [width > 1 ? 4 : 0, height > 1 ? width * 4 : 0];
    for (let y = 0, to = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        for (let k = 0; k < 4; k++, to++) {
          const at = (2 * y * width + 2 * x) * 4 + k;
          out[to] = (pixels[at]! + pixels[at + right]! + pixels[at + down]! + pixels[at + right + down]!) / 4;
        }
    [width, height, pixels] = [w, h, out];
  }
  return { ...picture, width, height, pixels };
}
