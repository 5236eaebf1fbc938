import { describe, expect, it } from 'vitest';
import { FrameCache, type FramePicture } from './frame-cache';

/** A source whose frames come when they are let. */
function source() {
  const asked: string[] = [];
  const given: string[] = [];
  const closed: string[] = [];
  const waiting = new Map<string, { resolve: (picture: FramePicture) => void; reject: (error: Error) => void }>();
  const cache = new FrameCache({
    load: (url, signal) =>
      new Promise<FramePicture>((resolve, reject) => {
        asked.push(url);
        waiting.set(url, { resolve, reject });
        signal.addEventListener('abort', () => (given.push(url), reject(new Error('aborted'))));
      }),
  });
  const come = async (url: string, width = 10) => {
    waiting.get(url)!.resolve({ width, height: 10, close: () => void closed.push(url) });
    await Promise.resolve();
    await new Promise((resolve) => setTimeout(resolve));
  };
  const fail = async (url: string) => {
    waiting.get(url)!.reject(new Error('not rendered'));
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { cache, asked, given, closed, come, fail };
}
const frames = (...numbers: number[]) => numbers.map((frame) => ({ url: `f${frame}`, frame }));

describe('frames of a take', () => {
  it('are fetched two at a time in the order of their need, and kept', async () => {
    const { cache, asked, come } = source();
    cache.want(frames(1, 2, 3, 4), true);
    expect(asked).toEqual(['f1', 'f2']);
    await come('f2');
    expect(asked).toEqual(['f1', 'f2', 'f3']);
    expect([cache.get('f2'), cache.get('f1')]).toEqual([expect.objectContaining({ width: 10 }), null]);
    cache.want(frames(2, 3), true);
    await come('f1');
    expect(asked).toEqual(['f1', 'f2', 'f3']);
  });

  it('that were left behind are not fetched any more; what is on its way comes while it plays, and is given up after', async () => {
    const { cache, asked, given } = source();
    cache.want(frames(1, 2, 3, 4, 5), true);
    cache.want(frames(40, 41), true);
    expect([asked, given]).toEqual([['f1', 'f2'], []]);
    cache.want(frames(7), false);
    expect(given).toEqual(['f1', 'f2']);
    await new Promise((resolve) => setTimeout(resolve));
    expect(asked).toEqual(['f1', 'f2', 'f7']);
  });

  it('that cannot be had are told and not asked for again and again; a given up one is', async () => {
    const { cache, asked, fail } = source();
    cache.want(frames(1, 2), false);
    await fail('f1');
    expect([cache.isLost('f1'), cache.isLost('f2')]).toEqual([true, false]);
    cache.want(frames(1), false);
    await new Promise((resolve) => setTimeout(resolve));
    expect(asked).toEqual(['f1', 'f2']);
    cache.want(frames(2), false);
    expect(asked).toEqual(['f1', 'f2', 'f2']);
    cache.retry();
    expect(cache.isLost('f1')).toBe(false);
    cache.want(frames(1, 2), false);
    expect(asked).toEqual(['f1', 'f2', 'f2', 'f1']);
  });

  it('that are forgotten on their way and wanted again at once are asked for again', async () => {
    const { cache, asked, come } = source();
    cache.want(frames(1), false);
    cache.clear();
    cache.want(frames(1), false);
    expect(asked).toEqual(['f1', 'f1']);
    await come('f1');
    expect(cache.get('f1')).not.toBeNull();
  });

  it('beyond what fits are let go, those looked at last kept longest', async () => {
    const { cache, closed, come } = source();
    for (const k of [1, 2, 3]) {
      cache.want(frames(k), true);
      await come(`f${k}`, 6_000_000);
      cache.get('f1');
    }
    expect(closed).toEqual(['f2']);
    expect(cache.get('f1')).not.toBeNull();
  });
});
