import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js';
import { UserProblem } from '../document';

/** Equirectangular surroundings, top row first, three linear values a pixel. */
export interface Surroundings {
  width: number;
  height: number;
  pixels: Float32Array;
}

const MOST_PIXELS = 8192 * 4096;

/** Reads an `.hdr` or `.exr` surroundings picture. @throws UserProblem `surroundings-broken` */
export function readSurroundings(bytes: Uint8Array<ArrayBuffer>, name: string): Surroundings {
  const refuse = (why: string) =>
    new UserProblem(
      'surroundings-broken',
      `"${name}" cannot serve as surroundings: ${why}. Choose an equirectangular .hdr or .exr picture, twice as wide as high.`,
      422,
    );
  const exr = bytes.length > 4 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === 20000630;
  const hdr = new TextDecoder('latin1').decode(bytes.subarray(0, 2)) === '#?';
  if (!exr && !hdr) throw refuse('it is neither an HDR nor an EXR picture');
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
  if (width * height > MOST_PIXELS) throw refuse('it is larger than 8192 × 4096 pixels');
  const channels = Math.round(data.length / (width * height));
  const pixels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    // EXR rows come bottom first from the reader, HDR rows top first.
    const from = exr ? height - 1 - y : y;
    for (let x = 0; x < width; x++) {
      for (let k = 0; k < 3; k++) {
        const value = data[(from * width + x) * channels + Math.min(k, channels - 1)]!;
        pixels[(y * width + x) * 3 + k] = Number.isFinite(value) ? Math.min(65504, Math.max(0, value)) : 0;
      }
    }
  }
  return { width, height, pixels };
}
