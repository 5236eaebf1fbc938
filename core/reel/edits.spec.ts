import { describe, expect, it } from 'vitest';
import type { Clip } from '../document';
import { slipClip, splitClip, trimClip } from './edits';
import { layFilm } from './film';
import { reelOf, reelTake } from './testing/reels';

const RATE = 24;
const takes = [reelTake({ last: 40 })];
const laid = (over: Partial<Clip>) => layFilm(reelOf([{ from: 11, to: 30, ...over }]), takes).clips[0]!;
/** Frames of the source that a clip shows, one after another. */
const shown = (over: Partial<Clip>): number[] => {
  const { timing } = laid(over);
  return Array.from({ length: timing.frames }, (_, k) => timing.at(k)[0]!.frame);
};

describe('an end of a clip', () => {
  it('is dragged in frames of the film, whatever the speed and the way it plays', () => {
    expect(trimClip(laid({}), 'start', 3, RATE)).toEqual({ from: 14, to: 30 });
    expect(trimClip(laid({}), 'end', -3, RATE)).toEqual({ from: 11, to: 27 });
    expect(trimClip(laid({ speed: 2 }), 'end', -3, RATE)).toEqual({ from: 11, to: 24 });
    expect(trimClip(laid({ play: 'backwards' }), 'start', 3, RATE)).toEqual({ from: 11, to: 27 });
    expect(trimClip(laid({ play: 'backwards' }), 'end', 3, RATE)).toEqual({ from: 8, to: 30 });
  });
  it('goes no farther than its source and its other end', () => {
    expect(trimClip(laid({}), 'end', 500, RATE)).toEqual({ from: 11, to: 40 });
    expect(trimClip(laid({}), 'start', -500, RATE)).toEqual({ from: 1, to: 30 });
    expect(trimClip(laid({}), 'start', 500, RATE)).toEqual({ from: 30, to: 30 });
  });
  it('makes what is repeated or plain longer', () => {
    expect(trimClip(laid({ repeat: 'length', length: 50 }), 'end', 10, RATE)).toEqual({ length: 60 });
    expect(trimClip(laid({ source: { kind: 'plain' }, from: 1, to: 24 }), 'start', 6, RATE)).toEqual({
      from: 1,
      to: 18,
    });
  });
});

describe('what a clip shows', () => {
  it('slips within its source and keeps its length', () => {
    expect(slipClip(laid({}), 5)).toEqual({ from: 16, to: 35 });
    expect(slipClip(laid({}), 500)).toEqual({ from: 21, to: 40 });
    expect(slipClip(laid({}), -500)).toEqual({ from: 1, to: 20 });
  });
});

describe('a clip that is split', () => {
  const joined = (over: Partial<Clip>, at: number) => {
    const parts = splitClip(laid(over), at);
    if (typeof parts === 'string') throw new Error(parts);
    return parts.map((part) => shown({ ...over, ...part }));
  };
  it.each<[string, Partial<Clip>, number]>([
    ['forwards', {}, 7],
    ['backwards', { play: 'backwards' }, 7],
    ['twice as fast', { speed: 2 }, 4],
    ['at half speed', { speed: 0.5 }, 12],
    ['held at both ends', { holdBefore: 4, holdAfter: 5 }, 9],
    ['between two runs', { loop: 3 }, 40],
    ['between two runs of a length', { repeat: 'length', length: 50 }, 20],
    ['plain', { source: { kind: 'plain' }, from: 1, to: 24 }, 5],
  ])('shows together what it showed before: %s', (_, over, at) => {
    const [first, second] = joined(over, at);
    expect(first).toHaveLength(at);
    if (over.source) return expect(first!.length + second!.length).toBe(24);
    expect([...first!, ...second!]).toEqual(shown(over));
  });
  it('keeps its length where its speed changes, to a frame', () => {
    for (const ramp of ['even', 'soft'] as const) {
      const over = { ramp, speed: 0.5, speedEnd: 2, from: 1, to: 40 };
      const [first, second] = joined(over, 14);
      expect(Math.abs(first!.length + second!.length - shown(over).length)).toBeLessThanOrEqual(2);
      expect(second![0]! - first!.at(-1)!).toBeLessThanOrEqual(2);
      expect(second![0]!).toBeGreaterThan(first!.at(-1)!);
    }
  });
  it('says where it cannot be', () => {
    expect(splitClip(laid({}), 20)).toMatch(/Put the playhead into/);
    expect(splitClip(laid({ loop: 3 }), 30)).toMatch(/every 20 frames/);
    expect(splitClip(laid({ holdBefore: 6 }), 3)).toMatch(/held cannot be split/);
  });
});
