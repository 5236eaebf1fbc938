import { FILM_SAMPLES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { luminance } from '../optics';
import { developedError } from './adaptive';
import { adaptivePasses } from './index';
import { renderScene } from './testing/renderState';
import { cardAndBall as scene } from './testing/cardAndBall';
import { holes } from './testing/holes';

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
});
