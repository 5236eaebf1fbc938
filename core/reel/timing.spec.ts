import { describe, expect, it } from 'vitest';
import { newClip, type Clip } from '../document';
import { clipFrames } from './sources';
import { footageAsset, reelOf, reelTake } from './testing/reels';
import { clipTiming } from './timing';

const RATE = 24;
function timing(over: Partial<Clip>, take = reelTake({ last: 4 })) {
  const clip = newClip({ kind: 'take', take: 't' }, { to: take.last, ...over });
  return clipTiming(clip, clipFrames(clip, reelOf([]), [take]), RATE);
}
const shown = (over: Partial<Clip>, take?: ReturnType<typeof reelTake>): number[] => {
  const { frames, at } = timing(over, take);
  return Array.from({ length: frames }, (_, k) => at(k).reduce((best, each) => (each.share > best.share ? each : best)).frame);
}; // prettier-ignore

describe('a clip', () => {
  it('plays its frames once', () => expect(shown({})).toEqual([1, 2, 3, 4]));
  it('loops without showing a frame twice at the seam', () =>
    expect(shown({ loop: 3 })).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1, 2, 3, 4]));
  it('slows down by showing frames longer', () => expect(shown({ speed: 0.5 })).toEqual([1, 1, 2, 2, 3, 3, 4, 4]));
  it('speeds up by leaving frames out', () => expect(shown({ speed: 2 })).toEqual([1, 3]));
  it('runs backwards', () => expect(shown({ play: 'backwards', from: 2 })).toEqual([4, 3, 2]));
  it('goes to and fro without showing its ends twice', () =>
    expect(shown({ play: 'toAndFro', loop: 2 })).toEqual([1, 2, 3, 4, 3, 2, 1, 2, 3, 4, 3, 2]));
  it('is repeated until it is so long', () =>
    expect(shown({ repeat: 'length', length: 6 })).toEqual([1, 2, 3, 4, 1, 2]));
  it('holds its first and its last picture', () =>
    expect(shown({ holdBefore: 2, holdAfter: 1 })).toEqual([1, 1, 1, 2, 3, 4, 4]));
  it('holds the end that it begins with where it runs backwards', () =>
    expect(shown({ play: 'backwards', holdBefore: 1, holdAfter: 1 })).toEqual([4, 4, 3, 2, 1, 1]));
  it('has at least one picture', () => expect(shown({ speed: 20 })).toEqual([1]));
  it('keeps within the frames that its take has', () =>
    expect(shown({ from: 1, to: 90 }, reelTake({ first: 3, last: 5 }))).toEqual([3, 4, 5]));
  it('shows for frames that its take leaves out the ones before them', () =>
    expect(shown({}, reelTake({ last: 6, settings: { step: 3, width: 9, height: 9 } }))).toEqual([1, 1, 1, 4, 4, 4]));

  it('goes over from one speed to another, and shows all of its frames all the same', () => {
    const take = reelTake({ last: 90 });
    for (const ramp of ['even', 'soft'] as const) {
      const frames = shown({ ramp, speed: 0.5, speedEnd: 2.5 }, take);
      // Their mean is 1.5.
      expect(frames.length).toBe(60);
      expect([frames[0], frames.at(-1)]).toEqual([1, expect.toSatisfy((last: number) => last >= 88)]);
      const step = (k: number) => frames[k + 6]! - frames[k]!;
      expect(step(0)).toBeLessThanOrEqual(5);
      expect(step(53)).toBeGreaterThanOrEqual(13);
      for (let k = 1; k < frames.length; k++) expect(frames[k]!).toBeGreaterThanOrEqual(frames[k - 1]!);
    }
  });

  it('mixes neighbours where it runs slowly, and all that passes where it runs fast', () => {
    const slow = timing({ speed: 0.25, between: 'blend' });
    expect(slow.at(1)).toEqual([
      { frame: 1, share: expect.closeTo(0.75) },
      { frame: 2, share: expect.closeTo(0.25) },
    ]);
    const fast = timing({ speed: 2, between: 'blend' });
    expect(fast.at(1)).toEqual([
      { frame: 3, share: 0.5 },
      { frame: 4, share: 0.5 },
    ]);
    for (const { frames, at } of [slow, fast, timing({ speed: 3.7, between: 'blend', play: 'toAndFro' })])
      for (let k = 0; k < frames; k++) {
        const shares = at(k);
        expect(shares.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
        for (const { frame } of shares) expect(frame >= 1 && frame <= 4).toBe(true);
      }
  });

  it('of what was filmed keeps its time, whatever its rate', () => {
    for (const rate of [12, 23.976, 30, 60]) {
      const document = reelOf([{ source: { kind: 'footage', asset: 'f' }, to: 100_000 }]);
      document.assets['f'] = footageAsset(Math.round(rate * 3), rate);
      const clip = document.reel.clips['c0']!;
      const { frames, at } = clipTiming(clip, clipFrames(clip, document, []), RATE);
      expect(Math.abs(frames - 72)).toBeLessThanOrEqual(1);
      expect(Math.abs(at(36)[0]!.frame - 1 - 1.5 * rate)).toBeLessThanOrEqual(1);
    }
  });
});
