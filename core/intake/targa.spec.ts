import { describe, expect, it } from 'vitest';
import { readTarga } from './targa';

/** Two by two: red and green above, blue and half-seen white below. */
function picture(kind: 2 | 10, origin: 'top' | 'bottom'): Uint8Array {
  const header = [0, 0, kind, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0, 2, 0, 32, origin === 'top' ? 0x28 : 0x08];
  const rows = [
    [0, 0, 255, 255, 0, 255, 0, 255],
    [255, 0, 0, 255, 255, 255, 255, 128],
  ];
  if (origin === 'bottom') rows.reverse();
  // A packet of two pixels one by one before each row.
  return Uint8Array.from([...header, ...rows.flatMap((row) => (kind === 10 ? [1, ...row] : row))]);
}

describe('TGA', () => {
  it.each([
    [2, 'top'],
    [2, 'bottom'],
    [10, 'top'],
    [10, 'bottom'],
  ] as const)('of kind %i that begins at the %s comes with its first row on top', (kind, origin) => {
    const { width, height, data } = readTarga(picture(kind, origin), 'two.tga');
    expect([width, height]).toEqual([2, 2]);
    expect([...data]).toEqual([255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 255, 255, 255, 128]);
  });

  it('that is cut off, of no known kind, or claims more than it holds is refused with a sentence', () => {
    const huge = picture(2, 'top');
    huge.set([0xff, 0xff, 0xff, 0xff], 12);
    const packed = picture(10, 'top');
    packed.set([0xff, 0x3f, 0xff, 0x3f], 12);
    const odd = picture(2, 'top');
    odd[2] = 77;
    for (const bytes of [huge, packed, odd, new Uint8Array(3)]) {
      expect(() => readTarga(bytes, 'bad.tga')).toThrow(/"bad.tga" cannot be unpacked\. Export it as PNG\./);
    }
  });
});
