import { describe, expect, it } from 'vitest';
import { readBitmap } from './bitmap';

const RED = [255, 0, 0, 255];
const GREEN = [0, 255, 0, 255];
const BLUE = [0, 0, 255, 255];
const WHITE = [255, 255, 255, 255];

/** A header of two by two pixels, colours of the palette, and rows that are filled up to four bytes. */
function written(bits: number, height: 2 | -2, colors: number[][], rows: number[][]): Uint8Array<ArrayBuffer> {
  const padded = rows.map((row) => [...row, ...new Array<number>((4 - (row.length % 4)) % 4).fill(0)]);
  const begin = 54 + colors.length * 4;
  const bytes = new Uint8Array(begin + padded.flat().length);
  const view = new DataView(bytes.buffer);
  bytes.set([0x42, 0x4d]);
  view.setUint32(2, bytes.length, true);
  view.setUint32(10, begin, true);
  view.setUint32(14, 40, true);
  view.setInt32(18, 2, true);
  view.setInt32(22, height, true);
  view.setUint16(26, 1, true);
  view.setUint16(28, bits, true);
  view.setUint32(46, colors.length, true);
  bytes.set(
    colors.flatMap(([red, green, blue]) => [blue!, green!, red!, 0]),
    54,
  );
  bytes.set((height > 0 ? padded.reverse() : padded).flat(), begin);
  return bytes;
}

const plain = (height: 2 | -2) =>
  written(24, height, [], [[RED, GREEN], [BLUE, WHITE]].map((row) => row.flatMap(([r, g, b]) => [b!, g!, r!]))); // prettier-ignore

describe('BMP', () => {
  it.each([2, -2] as const)('of height %i comes with its first row on top, opaque', (height) => {
    const { width, height: high, data } = readBitmap(plain(height), 'two.bmp');
    expect([width, high]).toEqual([2, 2]);
    expect([...data]).toEqual([RED, GREEN, BLUE, WHITE].flat());
  });

  it.each([
    [1, [[0b01000000], [0b10000000]]],
    [4, [[0x01], [0x10]]],
    [
      8,
      [
        [0, 1],
        [1, 0],
      ],
    ],
  ])('of %i bits a pixel shows the colours of its palette', (bits, rows) => {
    const { data } = readBitmap(written(bits, 2, [RED, WHITE], rows), 'two.bmp');
    expect([...data]).toEqual([RED, WHITE, WHITE, RED].flat());
  });

  it.each([
    [
      16,
      [
        [0x00, 0x7c, 0xff, 0x7f],
        [0xff, 0x7f, 0x00, 0x7c],
      ],
    ],
    [
      32,
      [
        [0, 0, 255, 0, 255, 255, 255, 0],
        [255, 255, 255, 0, 0, 0, 255, 0],
      ],
    ],
  ])('of %i bits a pixel is opaque', (bits, rows) => {
    const { data } = readBitmap(written(bits, 2, [], rows), 'two.bmp');
    [RED, WHITE, WHITE, RED].flat().forEach((v, k) => expect(Math.abs(data[k]! - v)).toBeLessThanOrEqual(8));
    expect(data[3]).toBe(255);
  });

  it('that is cut off, of no known kind, or claims more than it holds is refused with a sentence', () => {
    const huge = plain(2);
    new DataView(huge.buffer).setInt32(18, 16384, true);
    const negative = plain(2);
    new DataView(negative.buffer).setInt32(18, -2, true);
    const packed = plain(2);
    new DataView(packed.buffer).setUint32(30, 1, true);
    const odd = plain(2);
    odd[14] = 7;
    for (const bytes of [huge, negative, packed, odd, plain(2).subarray(0, 60), plain(2).subarray(0, 20)])
      expect(() => readBitmap(bytes, 'bad.bmp')).toThrow(/"bad.bmp" cannot be unpacked\. Export it as PNG\./);
  });

  it('ends whatever is changed in it', () => {
    const bytes = written(
      8,
      2,
      Array.from({ length: 256 }, (_, k) => [k, k, k]),
      [
        [0, 1],
        [1, 0],
      ],
    );
    let seed = 7;
    const random = (below: number) => (seed = (seed * 48271) % 2147483647) % below;
    let refused = 0;
    for (let k = 0; k < 300; k++) {
      const changed = new Uint8Array(bytes);
      for (let n = 0; n < 4; n++) changed[random(64)] = random(256);
      try {
        const { width, height, data } = readBitmap(changed, 'bad.bmp');
        expect(data).toHaveLength(width * height * 4);
      } catch (error) {
        expect(String(error)).toMatch(/Export it as PNG/);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(100);
  });
});
