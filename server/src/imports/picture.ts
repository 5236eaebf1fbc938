import { encode } from 'fast-png';
import sharp, { type Sharp } from 'sharp';
import { toHalf } from '@zippy/core/develop';
import { UserProblem } from '@zippy/core/document';
import {
  deepPicture,
  isFloatFile,
  MOST_DEEP_PIXELS,
  MOST_PICTURE_PIXELS,
  readDeepFile,
  type DeepPicture,
} from '@zippy/core/intake';
import { isBitmap, readBitmap } from '@zippy/core/intake/bitmap';
import { isKtx2, readKtx2 } from '@zippy/core/intake/basis';
import { isTargaName, readTarga } from '@zippy/core/intake/targa';

/** A picture as it is kept. */
export interface NormalPicture {
  /** With eight bits of red, green, blue and opacity, upright. */
  png: Uint8Array;
  /** Where it had more bits: a PNG of sixteen whose samples are half floats. */
  deep: Uint8Array | null;
  /** Numbers that were none, or beyond what is kept. */
  clipped: number;
  /** The deep one was larger than is kept. */
  smaller: boolean;
}

/**
 * A picture of any usual kind as PNG, no larger than is kept.
 * @throws UserProblem `picture-broken`
 */
export async function normalizePicture(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<NormalPicture> {
  if (isDrawing(bytes)) return normalizePicture(await drawn(bytes, name), name);
  if (isFloatFile(bytes)) return ofDeep(readDeepFile(bytes, name));
  const unpacked = await unpack(bytes, name);
  const raw = unpacked && { raw: { width: unpacked.width, height: unpacked.height, channels: 4 as const } };
  const upright = () =>
    sharp(unpacked?.data ?? bytes, { ...raw, limitInputPixels: 4 * MOST_PICTURE_PIXELS ** 2, failOn: 'error' })
      .timeout({ seconds: MOST_SECONDS })
      .autoOrient();
  try {
    const { depth, channels, width, height } = await upright().metadata();
    const smaller = Math.max(width, height) > MOST_DEEP_PIXELS;
    const small = () =>
      upright().resize(MOST_DEEP_PIXELS, MOST_DEEP_PIXELS, { fit: 'inside', withoutEnlargement: true });
    if (depth === 'float' || depth === 'double')
      return { ...(await ofDeep(await floats(small().toColourspace(channels < 3 ? 'b-w' : 'scrgb'), 1))), smaller };
    const png = await upright()
      .resize(MOST_PICTURE_PIXELS, MOST_PICTURE_PIXELS, { fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .ensureAlpha()
      .png({ compressionLevel: 6, palette: false })
      .toBuffer();
    const deep = depth === 'ushort' ? packHalves(await floats(small().toColourspace('rgb16'), 65535)) : null;
    return { png, deep, clipped: 0, smaller: smaller && deep !== null };
  } catch {
    throw new UserProblem(
      'picture-broken',
      `The picture "${name}" cannot be read: it is damaged, of an unknown kind or larger than 16,384 pixels. Bring it as PNG, JPEG, TIFF, EXR, TGA, BMP or WebP.`,
      422,
    );
  }
}

/** Numbers of a picture of which `white` is 1. */
async function floats(picture: Sharp, white: 1 | 65535): Promise<DeepPicture> {
  const { data, info } = await picture
    .raw({ depth: white === 1 ? 'float' : 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  const count = width * height * channels;
  const numbers = white === 1 ? new Float32Array(data.buffer, data.byteOffset, count) : Float32Array.from(new Uint16Array(data.buffer, data.byteOffset, count), (v) => v / white); // prettier-ignore
  return deepPicture(width, height, channels, numbers);
}

/** Seen in eight bits, plain as the numbers are: what is brighter than white is white. */
async function ofDeep(picture: DeepPicture): Promise<NormalPicture> {
  const { width, height, pixels, clipped, smaller } = picture;
  const seen = Uint8Array.from(pixels, (v) => Math.round(Math.min(1, Math.max(0, v)) * 255));
  const png = await sharp(seen, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
  return { png, deep: packHalves(picture), clipped, smaller };
}

const packHalves = ({ width, height, pixels }: DeepPicture): Uint8Array =>
  encode({ width, height, data: Uint16Array.from(pixels, toHalf), channels: 4, depth: 16 });

/** Longest that the picture library, whose threads cannot be ended, works on a picture. */
const MOST_SECONDS = 25;

/** Drawings can keep a rasteriser busy for minutes with a few lines of text. */
function isDrawing(bytes: Uint8Array): boolean {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 4096)).trimStart();
  return (
    text.startsWith('<?xml') || text.startsWith('<!') || /^(\u00ef\u00bb\u00bf)?\s*<svg/i.test(text) || isGzip(bytes)
  );
}

const isGzip = (bytes: Uint8Array): boolean => bytes[0] === 0x1f && bytes[1] === 0x8b;

/** Longest side of a drawing that is turned into pixels, and what drawings are measured by. */
const DRAWN_PIXELS = 4096;
const UNITS_PER_INCH = 72;

/** A drawing as pixels, as large as it is of use. It fetches nothing that it names. @throws UserProblem `picture-broken` */
async function drawn(bytes: Uint8Array, name: string): Promise<Uint8Array<ArrayBuffer>> {
  try {
    const { width, height } = await sharp(bytes).metadata();
    const density = Math.min(20_000, Math.max(1, (UNITS_PER_INCH * DRAWN_PIXELS) / Math.max(width, height)));
    const picture = sharp(bytes, { density, limitInputPixels: 4 * DRAWN_PIXELS ** 2 }).timeout({
      seconds: MOST_SECONDS,
    });
    const inside = { fit: 'inside' } as const;
    return new Uint8Array(await picture.resize(DRAWN_PIXELS, DRAWN_PIXELS, inside).ensureAlpha().png().toBuffer());
  } catch {
    throw new UserProblem(
      'picture-broken',
      `"${name}" is a drawing that cannot be read: it is damaged, has no size, or takes too long. Export it as PNG.`,
      422,
    );
  }
}

/** Pixels of the kinds that the picture library does not know; null of all others. */
async function unpack(bytes: Uint8Array, name: string) {
  if (isKtx2(bytes)) return readKtx2(bytes, name);
  if (isBitmap(bytes)) return readBitmap(bytes, name);
  return isTargaName(name) ? readTarga(bytes, name) : null;
}
