import sharp from 'sharp';
import { UserProblem } from '@zippy/core/document';
import { MOST_PICTURE_PIXELS } from '@zippy/core/intake';
import { isBitmap, readBitmap } from '@zippy/core/intake/bitmap';
import { isKtx2, readKtx2 } from '@zippy/core/intake/basis';
import { isTargaName, readTarga } from '@zippy/core/intake/targa';

/**
 * A picture of any usual kind as PNG with eight bits of red, green, blue and opacity, upright, and no larger than is kept.
 * @throws UserProblem `picture-broken`
 */
export async function normalizePicture(bytes: Uint8Array, name: string): Promise<Uint8Array> {
  if (isDrawing(bytes))
    throw new UserProblem(
      'picture-broken',
      `"${name}" is a drawing (SVG), which has no pixels. Export it as PNG, as large as it shall be on the surface.`,
      422,
    );
  const unpacked = await unpack(bytes, name);
  const raw = unpacked && { raw: { width: unpacked.width, height: unpacked.height, channels: 4 as const } };
  try {
    return await sharp(unpacked?.data ?? bytes, {
      ...raw,
      limitInputPixels: 4 * MOST_PICTURE_PIXELS ** 2,
      failOn: 'error',
    })
      .timeout({ seconds: MOST_SECONDS })
      .autoOrient()
      .resize(MOST_PICTURE_PIXELS, MOST_PICTURE_PIXELS, { fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .ensureAlpha()
      .png({ compressionLevel: 6, palette: false })
      .toBuffer();
  } catch {
    throw new UserProblem(
      'picture-broken',
      `The picture "${name}" cannot be read: it is damaged, of an unknown kind or larger than 16,384 pixels. Bring it as PNG, JPEG, TIFF, TGA, BMP or WebP.`,
      422,
    );
  }
}

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

/** Pixels of the kinds that the picture library does not know; null of all others. */
async function unpack(bytes: Uint8Array, name: string) {
  if (isKtx2(bytes)) return readKtx2(bytes, name);
  if (isBitmap(bytes)) return readBitmap(bytes, name);
  return isTargaName(name) ? readTarga(bytes, name) : null;
}
