import { FILM_SAMPLES } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { luminance } from '../optics';
import { mostSamples, nextAverage, PILOT, sampleRounds } from './allocation';
import { defaultRenderSettings } from './settings';
import { cardAndBall as scene } from './testing/cardAndBall';
import { holes } from './testing/holes';
import { renderScene, renderSpread, type TestFilm } from './testing/renderState';

const settings = { width: 48, height: 24, samples: 64 };
const counts = ({ film, frame, width, height }: TestFilm): number[] =>
  Array.from({ length: width * height }, (_, k) => film[k * frame.floats + FILM_SAMPLES]!);
const mean = (values: number[]): number => values.reduce((a, b) => a + b) / values.length;

describe('the spread of samples', () => {
  it('goes where the noise is, with as many on average as asked for, and leaves no pixel with few', async () => {
    const film = await renderSpread(scene, settings);
    const all = counts(film);
    expect(Math.abs(mean(all) / 64 - 1)).toBeLessThan(0.01);
    const at = (from: number, to: number) =>
      all.filter((_, k) => k % 48 >= from && k % 48 < to && k > 48 * 6 && k < 48 * 18);
    expect(mean(at(4, 18))).toBeLessThan(40);
    expect(mean(at(30, 44))).toBeGreaterThan(90);
    expect(Math.min(...all)).toBeGreaterThanOrEqual(PILOT);
  });

  it('leaves less error, as the display shows it, than as many samples for all alike', async () => {
    const truth = await renderScene(scene, { ...settings, samples: 2048, seed: 9 });
    const shown = (light: number) => Math.min(1, light) ** (1 / 2.2);
    const error = ({ film, frame, width, height }: TestFilm) => {
      let sum = 0;
      for (let k = 0; k < width * height; k++)
        for (let c = 0; c < 3; c++) sum += (shown(film[k * frame.floats + c]!) - shown(truth.film[k * frame.floats + c]!)) ** 2; // prettier-ignore
      return sum;
    };
    let [even, spread] = [0, 0];
    for (let seed = 1; seed <= 3; seed++) {
      even += error(await renderScene(scene, { ...settings, seed }));
      spread += error(await renderSpread(scene, { ...settings, seed }));
    }
    expect(spread).toBeLessThan(0.75 * even);
  });

  it('gives the same bytes on one worker and on three', async () => {
    const [one, three] = [await renderSpread(scene, settings), await renderSpread(scene, settings, 3)];
    expect(Buffer.from(one.film.buffer).equals(Buffer.from(three.film.buffer))).toBe(true);
  });

  it('stays within the region that is rendered', async () => {
    const film = await renderSpread(scene, { ...settings, region: { left: 0.5, top: 0, right: 1, bottom: 0.5 } });
    const all = counts(film);
    expect(all.every((n, k) => (k % 48 >= 24 && k < 48 * 12) === n > 0)).toBe(true);
    expect(Math.abs(mean(all.filter((n) => n > 0)) / 64 - 1)).toBeLessThan(0.01);
  });

  it('keeps the light of what begins dark', async () => {
    const heavy = { width: 32, height: 32, depth: 1 };
    const truth = luminance((await renderScene(holes, { ...heavy, samples: 8192, seed: 77 })).mean);
    let found = 0;
    for (let seed = 1; seed <= 40; seed++)
      found += luminance((await renderSpread(holes, { ...heavy, samples: 96, seed })).mean) / 40;
    expect(Math.abs(found / truth - 1)).toBeLessThan(0.003);
  });

  it('has rounds that end at what was asked for, however few or many', () => {
    expect([1, 8].map(sampleRounds)).toEqual([[1], [8]]);
    expect(sampleRounds(16)).toEqual([8, 16]);
    expect(sampleRounds(64)).toEqual([8, 24, 64]);
    for (let samples = 1; samples < 3000; samples += 7) {
      const rounds = sampleRounds(samples);
      expect(rounds.at(-1)).toBe(samples);
      expect(rounds.every((average, k) => k === 0 || average > rounds[k - 1]!)).toBe(true);
    }
  });

  it('takes all of the time that is left in the last of its rounds', () => {
    expect(nextAverage(8, 100)).toBe(24);
    expect(nextAverage(8, 20)).toBe(28);
    expect(nextAverage(24, 5)).toBe(29);
  });

  it('bounds a pixel by the average only where that is what is asked for', () => {
    const plain = { ...defaultRenderSettings(), samples: 64, noiseTarget: 0, secondsPerFrame: 0 };
    expect(mostSamples(plain)).toBe(1024);
    expect(mostSamples({ ...plain, samples: 4 })).toBe(4);
    expect(mostSamples({ ...plain, noiseTarget: 0.01 })).toBe(64);
    expect(mostSamples({ ...plain, secondsPerFrame: 5 })).toBe(64);
  });
});
