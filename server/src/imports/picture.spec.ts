import { decode } from 'fast-png';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { writeExr, fromHalf } from '@zippy/core/develop';
import { readPicture } from '@zippy/core/intake';
import { normalizePicture } from './picture';

const exr = (width: number, height: number, channels: Record<string, (k: number) => number>) =>
  writeExr({
    width,
    height,
    channels: Object.entries(channels).map(([name, value]) => ({
      name,
      type: 'float' as const,
      data: Float32Array.from({ length: width * height }, (_, k) => value(k)),
    })),
  }) as Uint8Array<ArrayBuffer>;

/** A TIFF of one pixel with one or three floats (TIFF 6.0, sections 2 and 19). */
function floatTiff(values: readonly number[]): Uint8Array<ArrayBuffer> {
  const n = values.length;
  const entries = [[256, 3, 1, 1], [257, 3, 1, 1], [258, 3, n, n === 1 ? 32 : 150], [259, 3, 1, 1], [262, 3, 1, n === 1 ? 1 : 2], [273, 4, 1, 170], [277, 3, 1, n], [278, 3, 1, 1], [279, 4, 1, 4 * n], [339, 3, n, n === 1 ? 3 : 160]]; // prettier-ignore
  const view = new DataView(new ArrayBuffer(182));
  [0x4949, 42, 8, 0, entries.length].forEach((value, k) => view.setUint16(k * 2, value, true));
  entries.forEach(([tag, type, count, value], k) => {
    view.setUint16(10 + k * 12, tag!, true);
    view.setUint16(12 + k * 12, type!, true);
    view.setUint32(14 + k * 12, count!, true);
    view.setUint32(18 + k * 12, value!, true);
  });
  for (let k = 0; k < n; k++) {
    view.setUint16(150 + k * 2, 32, true);
    view.setUint16(160 + k * 2, 3, true);
    view.setFloat32(170 + k * 4, values[k]!, true);
  }
  return new Uint8Array(view.buffer);
}

/** Numbers of the first pixels, from the finer file. */
const numbers = (deep: Uint8Array | null) => Array.from(readPicture(deep!, 'x').pixels, fromHalf);

describe('pictures with more than eight bits', () => {
  it('of sixteen keep their steps beside a PNG of eight', async () => {
    const ramp = Uint16Array.from({ length: 64 * 3 }, (_, k) => 300 + (k / 3) * 16);
    const bytes = await sharp(ramp, { raw: { width: 64, height: 1, channels: 3 } })
      .toColourspace('rgb16')
      .png()
      .toBuffer();
    expect((await sharp(bytes).metadata()).depth).toBe('ushort');
    const { png, deep } = await normalizePicture(new Uint8Array(bytes), 'ramp.png');
    expect(decode(png)).toMatchObject({ width: 64, height: 1, depth: 8, channels: 4 });
    const kept = numbers(deep);
    for (const at of [0, 20, 63]) expect(kept[at * 4]).toBeCloseTo((300 + at * 16) / 65535, 5);
    expect(kept[3]).toBe(1);
  });

  it('of floats keep light beyond white, and say what was no number', async () => {
    const { png, deep, clipped } = await normalizePicture(
      exr(4, 2, { R: (k) => (k === 1 ? NaN : k * 10), G: () => 0.25, B: () => -2 }),
      'light.exr',
    );
    expect(numbers(deep).slice(0, 12)).toEqual([0, 0.25, -2, 1, 0, 0.25, -2, 1, 20, 0.25, -2, 1]);
    expect(clipped).toBe(1);
    expect(Array.from(readPicture(png, 'x').pixels.slice(8, 12))).toEqual([255, 64, 0, 255]);
    const grey = await normalizePicture(exr(1, 1, { Y: () => 3 }), 'height.exr');
    expect(numbers(grey.deep)).toEqual([3, 3, 3, 1]);
  });

  it('of TIFF files with floats too', async () => {
    const { deep } = await normalizePicture(floatTiff([0.5, 2, 4]), 'f.tif');
    expect(numbers(deep)).toEqual([0.5, 2, 4, 1]);
    const grey = await normalizePicture(floatTiff([1.5]), 'f.tif');
    expect(numbers(grey.deep)).toEqual([1.5, 1.5, 1.5, 1]);
  });

  it('are made smaller where they are too large, by the mean of what they hold', async () => {
    const wide = exr(8192, 2, { R: (k) => (k % 2) * 2, G: () => 0, B: () => 0 });
    const normal = await normalizePicture(wide, 'wide.exr');
    expect(normal.smaller).toBe(true);
    const { width, height, pixels } = readPicture(normal.deep!, 'x');
    expect([width, height, fromHalf(pixels[0]!)]).toEqual([4096, 1, 1]);
    const raw = { raw: { width: 5000, height: 2, channels: 3 as const } };
    const sixteen = await sharp(new Uint16Array(30_000).fill(13_107), raw).toColourspace('rgb16').png().toBuffer();
    const made = await normalizePicture(new Uint8Array(sixteen), 'wide.png');
    expect(made.smaller).toBe(true);
    const kept = readPicture(made.deep!, 'x');
    expect([kept.width, fromHalf(kept.pixels[40]!)]).toEqual([4096, expect.closeTo(0.2, 3)]);
  });

  it.each([
    ['cut off', exr(64, 64, { R: (k) => Math.sin(k) }).slice(0, 900)],
    ['of a false size', new Uint8Array([...exr(4, 4, { R: () => 1 }).slice(0, 40), 1, 2, 3])],
  ])('that are %s are refused in one sentence', async (_, bytes) => {
    await expect(normalizePicture(bytes, 'torn.exr')).rejects.toThrow(/"torn\.exr" cannot be read: .*Save it again/);
  });
});
