import { describe, expect, it } from 'vitest';
import { gradientSurroundings, plainSurroundings, type SurroundingsPicture } from './surroundings';
import { harmonics, irradianceHarmonics, REFLECTION_BLURS, reflectionLevels } from './surroundingsLight';

const irradiance = (picture: SurroundingsPicture, normal: [number, number, number]): number[] => {
  const light = irradianceHarmonics(picture);
  const basis = harmonics(normal);
  return [0, 1, 2].map((c) => basis.reduce((sum, value, k) => sum + value * light[k * 3 + c]!, 0));
};

describe('light from all around', () => {
  it('of one colour gives π times it to every surface', () => {
    for (const normal of [
      [0, 1, 0],
      [1, 0, 0],
      [0, -0.6, 0.8],
    ] as [number, number, number][])
      // prettier-ignore
      irradiance(plainSurroundings([1, 0.5, 0.25]), normal).forEach((v, k) =>
        expect(v).toBeCloseTo(Math.PI * [1, 0.5, 0.25][k]!, 2),
      );
  });

  it('of one half of the sphere gives π to what faces it, nothing to what faces away, half to what stands across', () => {
    const pixels = new Float32Array(64 * 32 * 3);
    pixels.fill(1, 0, pixels.length / 2);
    const half = { width: 64, height: 32, pixels };
    expect(irradiance(half, [0, 1, 0])[0]).toBeCloseTo(Math.PI, 1);
    expect(Math.abs(irradiance(half, [0, -1, 0])[0]!)).toBeLessThan(0.1);
    expect(irradiance(half, [1, 0, 0])[0]).toBeCloseTo(Math.PI / 2, 2);
  });

  it('comes from where the picture has it: +z is its middle, +x its left half', () => {
    const pixels = new Float32Array(64 * 32 * 3);
    for (let y = 12; y < 20; y++) for (let x = 12; x < 20; x++) pixels[(y * 64 + x) * 3] = 1;
    const left = { width: 64, height: 32, pixels };
    expect(irradiance(left, [1, 0, 0])[0]).toBeGreaterThan(4 * Math.abs(irradiance(left, [-1, 0, 0])[0]!));
  });
});

describe('levels of reflections', () => {
  it('begin with the picture and keep its light', () => {
    const picture = gradientSurroundings([1, 1, 1], [0.5, 0.5, 0.5], [0, 0, 0]);
    const levels = reflectionLevels(picture, 16, 8);
    expect(levels).toHaveLength(REFLECTION_BLURS.length * 16 * 8 * 4);
    for (let level = 0; level < REFLECTION_BLURS.length; level++) {
      let [light, solid] = [0, 0];
      for (let y = 0; y < 8; y++) {
        const sine = Math.sin(((y + 0.5) / 8) * Math.PI);
        for (let x = 0; x < 16; x++) light += sine * levels[((level * 8 + y) * 16 + x) * 4]!;
        solid += 16 * sine;
      }
      expect(light / solid).toBeCloseTo(0.5, 1);
    }
  });

  it('lose what is small, the more the rougher', () => {
    const pixels = new Float32Array(64 * 32 * 3);
    pixels[(16 * 64 + 32) * 3] = 100;
    const levels = reflectionLevels({ width: 64, height: 32, pixels }, 64, 32);
    const peaks = REFLECTION_BLURS.map((_, level) => levels[((level * 32 + 16) * 64 + 32) * 4]!);
    expect(peaks[0]).toBe(100);
    for (let level = 1; level < peaks.length; level++) expect(peaks[level]).toBeLessThan(peaks[level - 1]!);
  });
});
