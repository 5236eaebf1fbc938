import { describe, expect, it } from 'vitest';
import { defaultRenderSettings, predictTake, probeFrames, type Probe } from './index';

const probe = (over: Partial<Probe> = {}): Probe => ({
  setup: 0.5,
  perSample: 1e-6,
  samples: 16,
  errors: [0.02, 0.04],
  ...over,
});
const settings = { ...defaultRenderSettings(), width: 1000, height: 500, samples: 64 };

describe('a prediction', () => {
  it('counts set-up and samples for every frame that will be traced', () => {
    const { seconds, secondsPerFrame, noise, frames } = predictTake([probe(), probe()], settings, 10);
    expect(secondsPerFrame.expected).toBeCloseTo(0.5 + 500_000 * 64 * 1e-6);
    expect(seconds.expected).toBeCloseTo(10 * secondsPerFrame.expected);
    // Four times the samples, half the error, and less as the noisier half gets twice as many as the other.
    expect(noise.expected).toBeCloseTo(Math.sqrt((0.02 ** 2 * (16 / (64 / 1.5)) + 0.04 ** 2 * (16 / (128 / 1.5))) / 2));
    expect(noise.expected).toBeLessThan(Math.sqrt((0.01 ** 2 + 0.02 ** 2) / 2));
    expect(frames).toBe(10);
    expect(seconds.low).toBeLessThan(seconds.expected);
  });

  it('is the less certain the more the frames differ', () => {
    const alike = predictTake([probe(), probe(), probe()], settings, 1).seconds;
    const apart = predictTake([probe({ perSample: 3e-6 }), probe(), probe()], settings, 1).seconds;
    expect(apart.high / apart.expected).toBeGreaterThan(alike.high / alike.expected);
  });

  it('with a noise target takes fewer samples where that will do, and no more than allowed', () => {
    const easy = predictTake([probe({ errors: [0.001] })], { ...settings, noiseTarget: 0.01 }, 1);
    expect(easy.secondsPerFrame.expected).toBeCloseTo(0.5 + 500_000 * 16 * 1e-6);
    const hard = predictTake([probe({ errors: [1] })], { ...settings, noiseTarget: 0.01 }, 1);
    expect(hard.secondsPerFrame.expected).toBeCloseTo(0.5 + 500_000 * 64 * 1e-6);
    const reached = predictTake([probe({ errors: [0.015] })], { ...settings, noiseTarget: 0.01 }, 1);
    expect(reached.noise.expected).toBeCloseTo(0.01);
  });

  it('with a time limit keeps it, and is noisier', () => {
    const free = predictTake([probe()], settings, 1);
    const short = predictTake([probe()], { ...settings, secondsPerFrame: 8.5 }, 1);
    expect(short.secondsPerFrame.expected).toBeCloseTo(8.5);
    expect(short.noise.expected).toBeCloseTo(free.noise.expected * 2);
  });

  it('of a region counts its part of the picture only', () => {
    const part = predictTake([probe()], { ...settings, region: { left: 0, top: 0, right: 0.5, bottom: 0.5 } }, 1);
    expect(part.secondsPerFrame.expected).toBeCloseTo(0.5 + 125_000 * 64 * 1e-6);
  });

  it('probes the first, the last and some between', () => {
    expect(probeFrames([3, 4])).toEqual([3, 4]);
    const picked = probeFrames(Array.from({ length: 96 }, (_, k) => k + 1));
    expect([picked.length, picked[0], picked.at(-1)]).toEqual([5, 1, 96]);
    expect(predictTake([], settings, 0).seconds.expected).toBe(0);
  });
});
