import { UserProblem } from '../document';

/** Bytes of the file's header and of the shortest header of a picture behind it. */
const [FILE_HEADER, LEAST_HEADER] = [14, 40];
/** Kinds of compression: none, and colours whose bits are told by masks. Runs of equal pixels are not read. */
const [PLAIN, MASKS, MASKS_AND_OPACITY] = [0, 3, 6];
/** Bits of red, green and blue where no masks tell them. */
const USUAL_MASKS: Record<number, [number, number, number]> = {
  16: [0x7c00, 0x03e0, 0x001f],
  24: [0xff0000, 0xff00, 0xff],
  32: [0xff0000, 0xff00, 0xff],
};

export const isBitmap = (bytes: Uint8Array): boolean => bytes[0] === 0x42 && bytes[1] === 0x4d;

/**
 * Unpacks a BMP picture that is not compressed. Its fourth channel, which most programs leave empty, is not taken for opacity.
 * Packages for it were tried: they lose palettes, odd widths of four bits a pixel, or do not know them.
 * @returns 8-bit RGBA, first row on top
 * @throws UserProblem `picture-broken`
 */
export function readBitmap(
  bytes: Uint8Array,
  name: string,
): { width: number; height: number; data: Uint8Array<ArrayBuffer> } {
  const problem = () =>
    new UserProblem('picture-broken', `The picture "${name}" cannot be unpacked. Export it as PNG.`, 422);
  if (bytes.length < FILE_HEADER + LEAST_HEADER) throw problem();
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [begin, header] = [view.getUint32(10, true), view.getUint32(14, true)];
  const [width, rows] = [view.getInt32(18, true), view.getInt32(22, true)];
  const [bits, compression] = [view.getUint16(28, true), view.getUint32(30, true)];
  const height = Math.abs(rows);
  const masked = compression === MASKS || compression === MASKS_AND_OPACITY;
  const known = [1, 4, 8, 16, 24, 32].includes(bits) && (compression === PLAIN || (masked && bits >= 16));
  if (!known || header < LEAST_HEADER || !(width > 0 && height > 0) || width > 16384 || height > 16384) throw problem();
  // Rows are filled up to four bytes. What a header claims is made room for at once, so it must fit to what is behind it.
  const stride = Math.ceil((width * bits) / 32) * 4;
  if (begin + stride * height > bytes.length) throw problem();
  const colours = FILE_HEADER + header;
  const masks = masked ? ([0, 4, 8].map((at) => view.getUint32(FILE_HEADER + LEAST_HEADER + at, true))) : (USUAL_MASKS[bits] ?? []); // prettier-ignore
  const channels = masks.map((mask) => channelOf(mask));
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < height; y++) {
    const from = begin + stride * (rows > 0 ? height - 1 - y : y);
    for (let x = 0; x < width; x++) {
      const to = (y * width + x) * 4;
      if (bits <= 8) {
        const at = x * bits;
        const number = (bytes[from + (at >> 3)]! >> (8 - bits - (at & 7))) & ((1 << bits) - 1);
        const colour = colours + number * 4;
        // A number beyond the palette names nothing.
        for (let k = 0; k < 3; k++) data[to + k] = colour + 4 <= begin ? bytes[colour + 2 - k]! : 0;
        continue;
      }
      const at = from + (x * bits) / 8;
      const value = bits === 16 ? view.getUint16(at, true) : bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bits === 32 ? bytes[at + 3]! << 24 : 0); // prettier-ignore
      channels.forEach((channel, k) => (data[to + k] = channel(value)));
    }
  }
  return { width, height, data };
}

/** Reads the bits of a mask as a channel from 0 to 255. */
function channelOf(mask: number): (value: number) => number {
  if (mask === 0) return () => 0;
  const shift = 31 - Math.clz32(mask & -mask);
  const most = mask >>> shift;
  return (value) => Math.round((((value & mask) >>> shift) * 255) / most);
}
