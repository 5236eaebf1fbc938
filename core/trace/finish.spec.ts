import { describe, expect, it } from 'vitest';
import type { Finish } from '../document';
import { normalize, type Vector } from '../geometry';
import { FinishProbe } from './testing/finishProbe';

// Tried by breaking the kernel on purpose: a refraction density without the square of the index, a visible-normal density too
// small by a tenth, and a diffuse density without its cosine each fail several of these tests.

const lobes: [string, Partial<Finish>][] = [
  ['matte', { specularWeight: 0, baseColor: [0.8, 0.5, 0.2] }],
  ['satin plastic', { specularRoughness: 0.5, baseColor: [0.2, 0.4, 0.8] }],
  ['rough metal', { baseMetalness: 1, specularRoughness: 0.6, baseColor: [0.9, 0.6, 0.3] }],
  ['satin metal', { baseMetalness: 1, specularRoughness: 0.4 }],
  ['coat over metal', { baseMetalness: 1, specularRoughness: 0.7, coatWeight: 1, coatRoughness: 0.4 }],
  ['coat over matte', { specularWeight: 0, coatWeight: 0.6, coatRoughness: 0.5, coatColor: [1, 0.7, 0.5] }],
  ['frosted glass', { transmissionWeight: 1, specularRoughness: 0.6, transmissionColor: [0.5, 0.9, 0.7] }],
  ['brushed metal', { baseMetalness: 1, specularRoughness: 0.5, specularRoughnessAnisotropy: 0.7 }],
  ['brushed coat', { specularWeight: 0, coatWeight: 1, coatRoughness: 0.5, coatRoughnessAnisotropy: 0.6 }],
  ['velvet', { specularWeight: 0, fuzzWeight: 1, fuzzRoughness: 0.5, fuzzColor: [0.9, 0.7, 0.8] }],
  ['chalk', { specularWeight: 0, baseDiffuseRoughness: 1 }],
  ['pearl', { specularRoughness: 0.5, thinFilmWeight: 1, thinFilmThickness: 0.4, thinFilmIor: 1.7 }],
  [
    'paper lampshade',
    { subsurfaceWeight: 1, thinWalled: true, specularRoughness: 0.6, subsurfaceScatterAnisotropy: 0.4 },
  ],
  ['frosted thin wall', { transmissionWeight: 1, thinWalled: true, specularRoughness: 0.6 }],
  ['half clear plastic', { transmissionWeight: 0.5, specularRoughness: 0.5 }],
];
const outs: Vector[] = [normalize([0.1, 0, 1]), normalize([0.5, -0.4, 0.7]), normalize([0.9, 0.2, 0.3])];
const sphere = (u: number, v: number): Vector => {
  const z = 1 - 2 * u;
  const r = Math.sqrt(Math.max(0, 1 - z * z));
  return [r * Math.cos(2 * Math.PI * v), r * Math.sin(2 * Math.PI * v), z];
};

describe.each(lobes)('the density of %s', (_, finish) => {
  it('integrates over the sphere to the share of samples that are not lost', async () => {
    const probe = await FinishProbe.open(finish);
    for (const out of outs) {
      const side = 300;
      let sum = 0;
      for (let i = 0; i < side; i++) {
        for (let j = 0; j < side; j++) sum += probe.evaluate(out, sphere((i + 0.5) / side, (j + 0.5) / side)).density;
      }
      const integral = (sum / side ** 2) * 4 * Math.PI;
      const kept = probe.sample(out, 40_000, 3).filter((sample) => sample.ok).length / 40_000;
      expect(Math.abs(integral - kept)).toBeLessThan(0.02);
    }
  });

  it('is that of the samples: chi-square over cells of the sphere', async () => {
    const probe = await FinishProbe.open(finish);
    const [rows, columns, fine, count] = [10, 12, 48, 20_000];
    for (const out of outs) {
      const expected = new Float64Array(rows * columns);
      const observed = new Float64Array(rows * columns);
      for (let i = 0; i < rows * fine; i++) {
        for (let j = 0; j < columns * fine; j++) {
          const direction = sphere((i + 0.5) / (rows * fine), (j + 0.5) / (columns * fine));
          const cell = Math.floor(i / fine) * columns + Math.floor(j / fine);
          const solidAngle = (4 * Math.PI) / (rows * columns * fine ** 2);
          expected[cell]! += probe.evaluate(out, direction).density * solidAngle * count;
        }
      }
      for (const { direction, ok } of probe.sample(out, count, 11)) {
        if (!ok) continue;
        const row = Math.min(rows - 1, Math.floor(((1 - direction[2]) / 2) * rows));
        const turn = Math.atan2(direction[1], direction[0]) / (2 * Math.PI);
        const column = Math.min(columns - 1, Math.floor((turn < 0 ? turn + 1 : turn) * columns));
        observed[row * columns + column]!++;
      }
      let square = 0;
      let cells = 0;
      for (let k = 0; k < expected.length; k++) {
        if (expected[k]! < 8) continue;
        square += (observed[k]! - expected[k]!) ** 2 / expected[k]!;
        cells++;
      }
      // Six standard deviations above the mean of the distribution; Sobol samples lie well below it.
      expect(square).toBeLessThan(cells + 6 * Math.sqrt(2 * cells));
    }
  });

  it('belongs to the weights: function over density, at every sampled direction', async () => {
    const probe = await FinishProbe.open(finish);
    for (const out of outs) {
      for (const { direction, density, weight, ok } of probe.sample(out, 400, 5)) {
        if (!ok) continue;
        const { value, density: again } = probe.evaluate(out, direction);
        expect(again / density).toBeCloseTo(1, 2);
        value.forEach((v, k) => expect(v / density).toBeCloseTo(weight[k]!, 2));
      }
    }
  });
});

describe('reciprocity', () => {
  it.each([
    ['matte', lobes[0]![1], 0.001],
    ['satin plastic', { specularRoughness: 0.5, baseColor: [0.2, 0.4, 0.8] }, 0.001],
    ['chalk', { specularWeight: 0, baseDiffuseRoughness: 1 }, 0.001],
    ['satin metal', { baseMetalness: 1, specularRoughness: 0.4 }, 0.001],
    ['rough brushed metal', { baseMetalness: 1, specularRoughness: 0.7, specularRoughnessAnisotropy: 0.7 }, 0.001],
  ] as [string, Partial<Finish>, number][])('of %s: light takes the same share both ways', async (_, finish, slack) => {
    const probe = await FinishProbe.open(finish);
    for (const a of outs) {
      for (const b of outs) {
        const there = probe.evaluate(a, b).value.map((v) => v / b[2]);
        const back = probe.evaluate(b, a).value.map((v) => v / a[2]);
        there.forEach((v, k) => expect(Math.abs(v / back[k]! - 1)).toBeLessThan(slack));
      }
    }
  });
});
