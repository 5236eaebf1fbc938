import { describe, expect, it } from 'vitest';
import { defaultLook, type Look } from '../../document';
import { grade } from '../grade';
import { chroma, clipping, histogram, meterExposure, parade, vectorscope, waveform } from './index';

/** A picture of what a function says at each place. */
function picture(width: number, height: number, of: (x: number, y: number) => number[]) {
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) pixels.set([...of(x, y), 255], (y * width + x) * 4);
  return { width, height, pixels };
}
const sum = (counts: Uint32Array) => counts.reduce((total, each) => total + each, 0);
const ramp = picture(256, 8, (x) => [x, x, x]);

describe('scopes', () => {
  it('count every level of a ramp alike, in the histogram and along the waveform', () => {
    const { luma, red } = histogram(ramp);
    expect([...new Set(luma)]).toEqual([8]);
    expect([...new Set(red)]).toEqual([8]);
    const { across, counts } = waveform(ramp, 256);
    // A straight line from the lower left to the upper right.
    for (let x = 0; x < 256; x++) expect(counts[(255 - x) * across + x]).toBe(8);
    expect(sum(counts)).toBe(256 * 8);
  });

  it('fold columns together where there are fewer of them than pixels', () => {
    const { across, counts } = waveform(ramp, 16);
    for (let c = 0; c < 16; c++) {
      let own = 0;
      for (let y = 0; y < 256; y++) own += counts[y * across + c]!;
      expect(own).toBe(16 * 8);
    }
  });

  it('tell red, green and blue apart', () => {
    const [r, g, b] = parade(
      picture(40, 30, () => [200, 100, 0]),
      20,
    );
    const rows = [r, g, b].map(({ counts, across }) => counts.findIndex((each) => each > 0) / across);
    expect(rows.map(Math.floor)).toEqual([55, 155, 255]);
  });

  it('put grey in the middle and pure colours where the standard has them', () => {
    const place = (color: number[]) => {
      const { counts, across } = vectorscope(picture(4, 4, () => color));
      const at = counts.findIndex((each) => each > 0);
      return [(at % across) / 255 - 0.5, 0.5 - Math.floor(at / across) / 255];
    };
    for (const [color, cb, cr] of [
      [[128, 128, 128], 0, 0],
      // ITU-R BT.709: of pure red, green and blue.
      [[255, 0, 0], -0.1146, 0.5],
      [[0, 255, 0], -0.3854, -0.4542],
      [[0, 0, 255], 0.5, -0.0458],
    ] as const) {
      const [x, y] = place([...color]);
      expect(x!).toBeCloseTo(cb, 2);
      expect(y!).toBeCloseTo(cr, 2);
      const told = chroma(color[0] / 255, color[1] / 255, color[2] / 255);
      expect(told[0]).toBeCloseTo(cb, 3);
      expect(told[1]).toBeCloseTo(cr, 3);
    }
  });

  it('mark what is clipped in one channel, and what is black in all', () => {
    const { full, empty, marks } = clipping(
      picture(10, 1, (x) => (x < 2 ? [255, 40, 0] : x < 5 ? [0, 1, 0] : [90, 0, 0])),
    );
    expect([full, empty]).toEqual([0.2, 0.3]);
    expect([...marks]).toEqual([1, 1, 2, 2, 2, 0, 0, 0, 0, 0]);
  });

  it('leave out what is open', () => {
    const open = { width: 2, height: 1, pixels: new Uint8Array(8) };
    expect(sum(histogram(open).luma) + sum(waveform(open, 2).counts) + sum(vectorscope(open).counts)).toBe(0);
    expect(clipping(open)).toMatchObject({ full: 0, empty: 0 });
  });
});

describe('the exposure meter', () => {
  const look = defaultLook();
  const developed = (light: number, over: Partial<Look> = {}) => {
    const own = { ...look, ...over };
    const coded = grade(new Float32Array([light, light, light, 1]), own, null)[0]! * 255;
    return { picture: picture(8, 8, () => [coded, coded, coded]), own };
  };

  it.each([
    [0.02, {}],
    [0.5, {}],
    [0.09, { tone: 'film' as const }],
    [0.3, { tone: 'trueColor' as const, contrast: 1.2 }],
  ])('brings an even field of %d to middle grey', (light, over) => {
    const { picture: shown, own } = developed(light, over);
    const stops = meterExposure(shown, own);
    expect(light * 2 ** stops).toBeCloseTo(0.18, 1.6);
  });

  it('holds back where bright things would burn, and never for black alone', () => {
    const shown = picture(10, 10, (x, y) => (y < 3 ? [235, 235, 235] : [20 + x, 20, 20]));
    const stops = meterExposure(shown, look);
    expect(stops).toBeLessThan(1);
    expect(
      meterExposure(
        picture(2, 2, () => [0, 0, 0]),
        look,
      ),
    ).toBeLessThanOrEqual(8);
    expect(meterExposure({ width: 1, height: 1, pixels: new Uint8Array(4) }, look)).toBe(0);
  });
});
