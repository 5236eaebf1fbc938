import { describe, expect, it, vi } from 'vitest';
import type { LinearFrame } from '@zippy/core/develop';

type FrameGuides = NonNullable<LinearFrame['guides']>;

const SIZE = { width: 70, height: 50 };

/** A grey wall with a dark edge, noisy as a frame of few samples is. */
function noisy(): { frame: LinearFrame; guides: FrameGuides; truth: (k: number) => number } {
  const count = SIZE.width * SIZE.height;
  const plane = (value: number) => new Float32Array(count).fill(value);
  const truth = (k: number) => (k % SIZE.width < 35 ? 0.4 : 0.05);
  let seed = 1;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const beauty = new Float32Array(count * 4).fill(1);
  const albedo = plane(0);
  for (let k = 0; k < count; k++) {
    const light = truth(k) * (random() + random());
    beauty.set([light, light, light], k * 4);
    albedo[k] = k % SIZE.width < 35 ? 0.8 : 0.1;
  }
  const guides = { normal: [plane(0), plane(0), plane(1)], albedo: [albedo, albedo, albedo], depth: plane(500) };
  return { frame: { ...SIZE, beauty, guides }, guides, truth };
}

describe('the learned noise filter', () => {
  it('takes most of the noise, keeps edges and the light', async () => {
    const { learnedFilter } = await import('./learnedFilter');
    const { frame, guides, truth } = noisy();
    const clean = await (await learnedFilter(1))!.filter(frame, guides);
    let [before, after, light, all] = [0, 0, 0, 0];
    for (let k = 0; k < SIZE.width * SIZE.height; k++) {
      before += (frame.beauty[k * 4]! - truth(k)) ** 2;
      after += (clean[k * 3]! - truth(k)) ** 2;
      light += clean[k * 3]!;
      all += truth(k);
    }
    expect(after / before).toBeLessThan(0.03);
    expect(Math.abs(light / all - 1)).toBeLessThan(0.03);
  });

  it('is none where the library is missing, and says so', async () => {
    vi.resetModules();
    vi.doMock('onnxruntime-node', () => {
      throw new Error('not for this machine');
    });
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    const { learnedFilter } = await import('./learnedFilter');
    expect(await learnedFilter(1)).toBeNull();
    expect(warned).toHaveBeenCalledOnce();
    vi.doUnmock('onnxruntime-node');
  });
});
