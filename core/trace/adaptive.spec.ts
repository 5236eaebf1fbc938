import { FILM_SAMPLES, SCENE_SAMPLES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { newLight, type Finish } from '../document';
import { composeTransform } from '../geometry';
import { luminance } from '../optics';
import { adaptivePasses, developedError, markNoisiest } from './index';
import { quad, renderScene, renderTimed, sphere, type TestScene } from './testing/renderState';

// Left half a luminous card without any noise, right half a ball under a small lamp.
const scene: TestScene = {
  parts: [
    {
      mesh: quad(40),
      finish: { baseColor: [0, 0, 0], specularWeight: 0, emissionUnit: 'nit', emissionPower: 400 } as Partial<Finish>,
      transform: composeTransform([-20, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    },
    {
      mesh: sphere(14),
      finish: { baseColor: [0.6, 0.6, 0.6], baseMetalness: 1, specularRoughness: 0.5 },
      transform: composeTransform([20, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    },
  ],
  lights: [newLight('panel', { position: [40, 60, 60], width: 60, height: 60, power: 6 })],
  camera: { focalLength: 45 },
};
const settings = { width: 48, height: 24, samples: 256 };

describe('adaptive sampling', () => {
  it('goes where the noise is, ends at its target and keeps the light', async () => {
    const adaptive = await renderScene(scene, settings, 1, adaptivePasses(256), 0.008);
    const long = await renderScene(scene, { ...settings, samples: 2048 });
    const counts = (from: number, to: number) => {
      const found: number[] = [];
      for (let y = 6; y < 18; y++)
        for (let x = from; x < to; x++) found.push(adaptive.film[(y * 48 + x) * adaptive.frame.floats + FILM_SAMPLES]!);
      return found;
    };
    expect(Math.max(...counts(6, 18))).toBe(16);
    expect(Math.max(...counts(30, 44))).toBeGreaterThan(60);
    const sum = (film: typeof long) => luminance(film.mean);
    expect(sum(adaptive) / sum(long)).toBeCloseTo(1, 2);
  });

  it('gives the same bytes on one worker and on three', async () => {
    const [one, three] = [
      await renderScene(scene, settings, 1, [16, 40, 100], 0.01),
      await renderScene(scene, settings, 3, [16, 40, 100], 0.01),
    ];
    expect(Buffer.from(one.film.buffer).equals(Buffer.from(three.film.buffer))).toBe(true);
  });

  it('counts an error less in bright light than in the dark, and not at all beyond white', () => {
    expect(developedError(0.02, 0.01)).toBeGreaterThan(3 * developedError(0.5, 0.01));
    expect(developedError(50, 1)).toBe(0);
  });

  it('has passes that reach the end, however few samples there are', () => {
    expect(adaptivePasses(1)).toEqual([1]);
    expect(adaptivePasses(64).at(-1)).toBe(64);
    expect(adaptivePasses(64)[0]).toBe(16);
  });

  it('by time goes to the noisiest pixels, a given share of them, and to none below a target', async () => {
    const memory = { buffer: new ArrayBuffer(0) };
    const { frame } = await renderScene(
      { ...scene, poke: (words) => void (memory.buffer = words.buffer as ArrayBuffer) },
      settings,
      1,
      [16],
    );
    const marks = (share: number, target = 0) => {
      const count = markNoisiest(memory as WebAssembly.Memory, frame, share, target);
      const mask = new Uint8Array(memory.buffer, frame.mask, 48 * 24);
      return { count, left: mask.filter((v, k) => v === 1 && k % 48 < 20).length };
    };
    expect(marks(0.1).count).toBeGreaterThan(80);
    expect(marks(0.1).count).toBeLessThan(130);
    // The card on the left has no noise.
    expect(marks(0.1).left).toBe(0);
    expect(marks(0.1, 10).count).toBe(0);
    // A pixel that has all of its samples is not marked, however noisy it is.
    new Uint32Array(memory.buffer)[(frame.scene + SCENE_SAMPLES) / 4] = 16;
    expect(marks(0.1).count).toBe(0);
  });

  // A wall under a large lamp behind a plate with holes: three samples of a hundred are bright, so most pixels begin dark.
  const holes: TestScene = {
    parts: [
      { mesh: quad(400), finish: { baseColor: [0.8, 0.8, 0.8], specularWeight: 0 } },
      ...Array.from({ length: 9 }, (_, k) => ({
        mesh: quad(600),
        finish: { baseColor: [0, 0, 0], specularWeight: 0 } as Partial<Finish>,
        transform: composeTransform([(k - 4) * 42, 0, 80], [0, 0, 0, 1], [0.065, 1, 1]),
      })),
    ],
    lights: [newLight('panel', { position: [0, 0, 160], target: [0, 0, 0], width: 320, height: 320, power: 300 })],
    camera: { position: [0, 0, 70], focalLength: 60 },
  };
  const heavy = { width: 32, height: 32, depth: 1 };
  const meanLight = async (render: (seed: number) => Promise<number>, seeds: number) => {
    let sum = 0;
    for (let seed = 1; seed <= seeds; seed++) sum += (await render(seed)) / seeds;
    return sum;
  };

  it('keeps the light of what begins dark: by a noise target', async () => {
    const truth = luminance((await renderScene(holes, { ...heavy, samples: 8192, seed: 77 })).mean);
    const found = await meanLight(
      async (seed) =>
        luminance((await renderScene(holes, { ...heavy, samples: 256, seed }, 1, adaptivePasses(256), 0.08)).mean),
      40,
    );
    expect(Math.abs(found / truth - 1)).toBeLessThan(0.003);
  });

  it('keeps the light of what begins dark: by time', async () => {
    const truth = luminance((await renderScene(holes, { ...heavy, samples: 8192, seed: 77 })).mean);
    const found = await meanLight(
      async (seed) => luminance((await renderTimed(holes, { ...heavy, samples: 1024, seed }, 24)).mean),
      40,
    );
    expect(Math.abs(found / truth - 1)).toBeLessThan(0.003);
  });
});
