import { describe, expect, it } from 'vitest';
import type { Move } from '../../document';
import { behaviourOf, newMove } from './index';
import { FLICKERS } from './flicker';

type Flicker = Extract<Move, { kind: 'flicker' }>;
const made = (over: Partial<Flicker>): Flicker => ({
  ...(newMove('flicker', 'lights/key/power', 11, 120, { present: 800 }) as Flicker),
  ...over,
});
const values = (move: Flicker, from: number, to: number): number[] => {
  const behaviour = behaviourOf(move);
  if (behaviour.drives !== 'value') throw new Error('a flicker sets a value');
  return Array.from({ length: to - from }, (_, k) => behaviour.value(move, from + k, false) as number);
};

describe('a flicker', () => {
  it.each(FLICKERS.filter((pattern) => pattern !== 'footage'))(
    'like %s varies between low and high, and comes again',
    (pattern) => {
      const move = made({ pattern, low: 100, repeat: 2, every: 2 });
      const first = values(move, 11, 131);
      expect(values(move, 131, 251)).toEqual(first);
      expect(Math.min(...first)).toBeGreaterThanOrEqual(100);
      expect(Math.max(...first)).toBeLessThanOrEqual(800);
      expect(Math.max(...first) - Math.min(...first)).toBeGreaterThan(150);
      // Another variation is another one, the same is the same.
      expect(values(made({ ...move, seed: 2 }), 11, 131)).not.toEqual(first);
      expect(values(made({ ...move }), 11, 131)).toEqual(first);
    },
  );

  it('is as bright as it was before it begins and after it ends', () => {
    const move = made({ pattern: 'fire' });
    expect(values(move, 1, 11)).toEqual(Array(10).fill(800));
    expect(values(move, 131, 140)).toEqual(Array(9).fill(800));
  });

  it('of a candle is mostly bright, of a tube is on or off, of fire is neither', () => {
    const share = (pattern: Flicker['pattern'], when: (v: number) => boolean) => {
      const all = values(made({ pattern, low: 0, high: 1, length: 2000, every: 2 }), 11, 2011);
      return all.filter(when).length / all.length;
    };
    expect(share('candle', (v) => v > 0.8)).toBeGreaterThan(0.6);
    expect(share('tube', (v) => v === 0 || v === 1)).toBe(1);
    expect(share('tube', (v) => v === 1)).toBeGreaterThan(0.6);
    expect(share('tube', (v) => v === 0)).toBeGreaterThan(0.05);
    expect(share('fire', (v) => v > 0.3 && v < 0.9)).toBeGreaterThan(0.7);
  });

  it('of footage follows its brightness from frame to frame', () => {
    const move = made({ pattern: 'footage', low: 0, high: 10, start: 1, length: 4, brightness: [0, 0.5, 1, 0.25] });
    expect(values(move, 1, 5)).toEqual([0, 5, 10, 2.5]);
    expect(values({ ...move, length: 8 }, 1, 9)).toEqual([0, 0, 5, 5, 10, 10, 2.5, 2.5]);
    expect(values({ ...move, brightness: [] }, 1, 3)).toEqual([10, 10]);
  });

  it('leads from the last frame of a run to its first without a jump', () => {
    for (const pattern of ['candle', 'fire', 'random'] as const) {
      const move = made({ pattern, low: 0, high: 1, every: 12, length: 120, repeat: 2 });
      const all = values(move, 11, 251);
      const steps = all.slice(1).map((v, k) => Math.abs(v - all[k]!));
      expect(steps[119]!).toBeLessThanOrEqual(Math.max(...steps.filter((_, k) => k !== 119)) + 1e-9);
    }
  });
});
