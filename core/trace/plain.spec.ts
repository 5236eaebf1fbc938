import { startPlainKernel } from '@zippy/kernel/plain';
import { describe, expect, test } from 'vitest';
import { LAYERS, newLight, type Finish } from '../document';
import { box, renderScene, sphere, type TestScene } from './testing/renderState';

const FINISHES: Record<string, Partial<Finish>> = {
  matte: { baseColor: [0.7, 0.4, 0.2], baseDiffuseRoughness: 0.6 },
  'glossy plastic': { baseColor: [0.1, 0.3, 0.6], specularRoughness: 0.25 },
  'brushed metal': {
    baseMetalness: 1,
    baseColor: [0.9, 0.7, 0.4],
    specularRoughness: 0.4,
    specularRoughnessAnisotropy: 0.8,
  },
  'coated, with a film': {
    baseColor: [0.3, 0.02, 0.02],
    coatWeight: 1,
    coatColor: [0.9, 0.6, 0.5],
    coatRoughness: 0.1,
    thinFilmWeight: 1,
    thinFilmThickness: 0.4,
  },
  velvet: { baseColor: [0.05, 0.05, 0.2], fuzzWeight: 0.9, fuzzRoughness: 0.6 },
  'rough glass': { transmissionWeight: 1, specularRoughness: 0.3, transmissionColor: [0.6, 0.9, 0.8] },
  'clear glass that disperses': { transmissionWeight: 1, specularRoughness: 0, transmissionDispersionScale: 1 },
  'a thin sheet': { transmissionWeight: 0.6, thinWalled: true, subsurfaceWeight: 0.8, specularRoughness: 0.1 },
  wax: { subsurfaceWeight: 1, subsurfaceColor: [0.9, 0.5, 0.3], subsurfaceRadius: 3 },
};

const under = (finish: Partial<Finish>): TestScene => ({
  parts: [
    { mesh: sphere(14, 12), finish },
    { mesh: box(60, 2, 60), finish: { baseColor: [0.5, 0.5, 0.5] }, transform: [1, 0, 0, 0, 0, 1, 0, -16, 0, 0, 1, 0] },
  ],
  lights: [
    newLight('panel', { position: [-60, 80, 60], target: [0, 0, 0], width: 40, height: 40, power: 300 }),
    newLight('sun', { position: [100, 200, 50], target: [0, 0, 0], power: 0.5 }),
  ],
  set: (set) => (set.surroundings.color = [0.2, 0.25, 0.3]),
});

/** Greatest difference of two films, against the mean of what they hold. */
function difference(a: Float32Array, b: Float32Array): number {
  let [most, sum] = [0, 0];
  a.forEach((value, at) => {
    most = Math.max(most, Math.abs(value - b[at]!));
    sum += Math.abs(value);
  });
  return most / (sum / a.length);
}

describe('the kernel as plain code renders what the compiled one renders', () => {
  const settings = { width: 8, height: 8, samples: 4, depth: 6 };

  test.each(Object.entries(FINISHES))('%s', async (_, finish) => {
    const compiled = await renderScene(under(finish), settings);
    const plain = await renderScene({ ...under(finish), by: (memory) => startPlainKernel(memory, 1) }, settings);
    expect(Math.max(...compiled.mean)).toBeGreaterThan(0.05);
    expect(difference(compiled.film, plain.film)).toBeLessThan(1e-5);
  });

  test('in fog, out of focus, with every layer', async () => {
    const scene: TestScene = {
      ...under(FINISHES['glossy plastic']!),
      camera: { fStop: 1.4 },
      set: (set) => {
        set.surroundings.color = [0.2, 0.25, 0.3];
        set.air.density = 0.5;
      },
    };
    const all = { ...settings, layers: [...LAYERS] };
    const compiled = await renderScene(scene, all);
    const plain = await renderScene({ ...scene, by: (memory) => startPlainKernel(memory, 1) }, all);
    expect(difference(compiled.film, plain.film)).toBeLessThan(1e-5);
  });
});
