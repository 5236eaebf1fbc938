// Parts of the shading half on their own, without WebAssembly.

import { beforeAll, describe, expect, test } from 'vitest';
import * as carried from '../assembly/path/carried?plain';
import * as clear from '../assembly/finish/clear?plain';
import * as coat from '../assembly/finish/coat?plain';
import * as diffuse from '../assembly/finish/diffuse?plain';
import * as medium from '../assembly/medium?plain';
import * as microfacet from '../assembly/microfacet?plain';
import * as sampler from '../assembly/sampler?plain';
import * as L from '../assembly/layout';
import { createKernelMemory, FREE_MEMORY, scratchOf } from '../host/kernel';
import { useMemory } from './machine';

const FINISH = FREE_MEMORY;
let floats: Float32Array;

beforeAll(() => {
  const memory = createKernelMemory(false);
  useMemory(memory);
  floats = new Float32Array(memory.buffer);
  sampler.setSamplerScratch(scratchOf(0));
});

/** A finish in memory with these parameters, all others 0. */
function finish(parameters: Record<number, number | number[]>): number {
  floats.fill(0, FINISH / 4, (FINISH + L.FINISH_SIZE) / 4);
  for (const [offset, value] of Object.entries(parameters)) floats.set([value].flat(), (FINISH + Number(offset)) / 4);
  return FINISH;
}

/** Fresnel's equations for light of no direction of swing. */
function fresnel(cosine: number, eta: number): number {
  const bent = Math.sqrt(1 - (1 - cosine ** 2) / eta ** 2);
  const across = (cosine - eta * bent) / (cosine + eta * bent);
  const along = (eta * cosine - bent) / (eta * cosine + bent);
  return (across ** 2 + along ** 2) / 2;
}

describe('the clear boundary', () => {
  test.each([1, 0.8, 0.5, 0.2, 0.05])('reflects by the equations of Fresnel at cosine %f', (cosine) => {
    clear.openClear(finish({}), 1.5, 1.5, true, false);
    clear.glassShine(cosine);
    expect(clear.shineG).toBeCloseTo(fresnel(cosine, 1.5), 5);
  });

  test('of a wall adds up all that bounces between its sides: 2r / (1 + r)', () => {
    clear.openClear(finish({}), 1.5, 1.5, true, true);
    clear.glassShine(1);
    expect(clear.shineG).toBeCloseTo(0.08 / 1.04, 5);
  });

  test('reflects all beyond the critical angle from within', () => {
    clear.openClear(finish({}), 1 / 1.5, 1 / 1.5, false, false);
    clear.glassShine(0.7);
    expect([clear.shineR, clear.shineChance]).toEqual([1, 1]);
    clear.glassShine(0.8);
    expect(clear.shineR).toBeLessThan(0.5);
  });

  test('bears a film on the outer side alone', () => {
    const filmed = { [L.FINISH_FILM]: 1, [L.FINISH_FILM_IOR]: 1.35, [L.FINISH_FILM_THICKNESS]: 300 };
    clear.openClear(finish(filmed), 1.5, 1.5, false, false);
    clear.shine(0.9);
    expect(clear.shineR).toBe(clear.shineB);
    clear.openClear(finish(filmed), 1.5, 1.5, true, false);
    clear.shine(0.9);
    expect(Math.abs(clear.shineR - clear.shineB)).toBeGreaterThan(1e-3);
  });
});

describe('a coat', () => {
  test('that is not there leaves all', () => {
    coat.openCoat(finish({}), 0, 0, 0, 1);
    expect([coat.belowCoatR, coat.coatAlbedo, coat.coatTint(0.5, 0)]).toEqual([1, 0, 1]);
  });
});

describe('the rough diffuse surface', () => {
  test.each([0, 0.3, 1])('of roughness %f sends back all light when it is white', (rough) => {
    const view = 0.6;
    const side = Math.sqrt(1 - view ** 2);
    let sum = 0;
    const steps = 200;
    for (let i = 0; i < steps; i++) {
      const cosine = Math.sqrt((i + 0.5) / steps);
      for (let j = 0; j < steps; j++) {
        const along = Math.sqrt(1 - cosine ** 2) * Math.cos((2 * Math.PI * (j + 0.5)) / steps);
        diffuse.openRoughDiffuse(rough, view, cosine, side * along);
        sum += diffuse.roughDiffuse(1);
      }
    }
    expect(sum / steps ** 2).toBeCloseTo(1, 2);
  });
});

describe('microfacets', () => {
  test.each([
    [0.3, 0.3],
    [0.5, 0.1],
  ])('of widths %f and %f show their whole area', (ax, ay) => {
    let sum = 0;
    const steps = 400;
    for (let i = 0; i < steps; i++) {
      const z = (i + 0.5) / steps;
      for (let j = 0; j < steps; j++) {
        const turn = (2 * Math.PI * (j + 0.5)) / steps;
        const r = Math.sqrt(1 - z * z);
        sum += microfacet.distribution(r * Math.cos(turn), r * Math.sin(turn), z, ax, ay) * z;
      }
    }
    expect((sum * 2 * Math.PI) / steps ** 2).toBeCloseTo(1, 2);
  });
});

describe('matter', () => {
  test.each([-0.6, 0, 0.8])('scatters all its light, leaning by %f', (g) => {
    let [sum, mean] = [0, 0];
    const steps = 4000;
    for (let k = 0; k < steps; k++) {
      const cosine = -1 + (2 * (k + 0.5)) / steps;
      sum += (medium.phase(cosine, g) * 4 * Math.PI) / steps;
      mean += medium.samplePhaseCosine(g, (k + 0.5) / steps) / steps;
    }
    expect(sum).toBeCloseTo(1, 2);
    expect(mean).toBeCloseTo(g, 2);
  });
});

describe('what a path carries', () => {
  test('is as much on average after dim paths were ended by chance', () => {
    let sum = 0;
    const count = 4096;
    for (let k = 0; k < count; k++) {
      sampler.startSample(3, 5, 7, k, 24);
      carried.carryAll();
      carried.carry(0.25, 0.25, 0.25);
      if (carried.survives()) sum += carried.throughG;
    }
    expect(sum / count).toBeCloseTo(0.25, 2);
  });

  test('is white on average over all wavelengths', () => {
    const sum = [0, 0, 0];
    const steps = 1000;
    for (let k = 0; k < steps; k++) {
      carried.carryAll();
      carried.takeApart((k + 0.5) / steps);
      [carried.throughR, carried.throughG, carried.throughB].forEach((v, c) => (sum[c]! += v / steps));
    }
    sum.forEach((v) => expect(v).toBeCloseTo(1, 2));
  });
});

test('the sampler spreads 64 numbers over 64 steps, one in each', () => {
  const met = new Set<number>();
  for (let k = 0; k < 64; k++) {
    sampler.startSample(0, 0, 1, k, 24);
    met.add(Math.floor(sampler.draw1() * 64));
  }
  expect(met.size).toBe(64);
});
