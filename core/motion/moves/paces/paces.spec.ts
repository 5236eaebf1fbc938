import { describe, expect, it } from 'vitest';
import { PLAIN_PACES, type Pace } from '../../../document/properties/pace';
import { paced, springResponse } from './index';

const NUMBERED: Pace[] = [
  { stepped: { count: 4, moving: 0.4, swing: 0.4 } },
  { stepped: { count: 7, moving: 0, swing: 0 } },
  { overshoot: { way: 'after', amount: 0.1 } },
  { overshoot: { way: 'before', amount: 0.3 } },
  { overshoot: { way: 'both', amount: 2 } },
  { spring: { stiffness: 3, damping: 0.35 } },
  { spring: { stiffness: 0.5, damping: 0.05 } },
  { spring: { stiffness: 2, damping: 1 } },
  { spring: { stiffness: 4, damping: 3 } },
  { bounce: { count: 3, height: 0.3 } },
  { bounce: { count: 20, height: 0.95 } },
];
const along = (pace: Pace, steps = 2000) => Array.from({ length: steps + 1 }, (_, k) => paced(pace, k / steps));

describe('every pace', () => {
  it.each([...PLAIN_PACES, ...NUMBERED])('%j begins at 0, ends at 1 and is a number in between', (pace) => {
    const values = along(pace);
    expect(values[0]).toBeCloseTo(0, 9);
    expect(values.at(-1)).toBeCloseTo(1, 9);
    expect(values.every(Number.isFinite)).toBe(true);
  });

  it.each(
    [...PLAIN_PACES, ...NUMBERED].filter(
      (pace) => pace !== 'held' && !(typeof pace === 'object' && 'stepped' in pace && pace.stepped.moving === 0),
    ),
  )('%j makes no jump', (pace) => {
    const values = along(pace, 20_000);
    expect(Math.max(...values.slice(1).map((v, k) => Math.abs(v - values[k]!)))).toBeLessThan(0.01);
  });
});

describe('eased paces', () => {
  it('are the slower at their ends the stronger they are', () => {
    for (const way of ['', '-in'] as const) {
      const [soft, ease, strong] = [`soft${way}`, `ease${way}`, `strong${way}`] as Pace[];
      expect(paced(soft!, 0.2)).toBeGreaterThan(paced(ease!, 0.2));
      expect(paced(ease!, 0.2)).toBeGreaterThan(paced(strong!, 0.2));
    }
    expect(paced('strong-out', 0.2)).toBeGreaterThan(paced('ease-out', 0.2));
    for (const pace of ['soft', 'ease', 'strong'] as const) expect(paced(pace, 0.5)).toBeCloseTo(0.5, 12);
  });
});

describe('an overshoot', () => {
  it.each([0.02, 0.1, 0.5, 2])('of %d goes just that far beyond', (amount) => {
    expect(Math.max(...along({ overshoot: { way: 'after', amount } }, 20_000))).toBeCloseTo(1 + amount, 4);
    expect(Math.min(...along({ overshoot: { way: 'before', amount } }, 20_000))).toBeCloseTo(-amount, 4);
  });
});

describe('a spring', () => {
  // x'' = w² (1 - x) - 2 z w x', integrated finely.
  const integrated = (stiffness: number, damping: number, until: number): number => {
    const w = 2 * Math.PI * stiffness;
    let [x, v] = [0, 0];
    const dt = 1e-6;
    for (let t = 0; t < until; t += dt) {
      v += dt * (w * w * (1 - x) - 2 * damping * w * v);
      x += dt * v;
    }
    return x;
  };

  it.each([
    [3, 0.35],
    [2, 1],
    [1.5, 2.5],
  ])('of %d swings and damping %d moves as its equation says', (stiffness, damping) => {
    for (const t of [0.1, 0.31, 0.7])
      expect(springResponse({ stiffness, damping }, t)).toBeCloseTo(integrated(stiffness, damping, t), 4);
  });

  it('as a pace is off that by no more than what is left of its swing at the end', () => {
    const spring = { stiffness: 3, damping: 0.35 };
    const left = Math.abs(1 - springResponse(spring, 1));
    expect(left).toBeLessThan(0.002);
    for (const t of [0.05, 0.2, 0.6])
      expect(Math.abs(paced({ spring }, t) - springResponse(spring, t))).toBeLessThanOrEqual(left + 1e-12);
  });
});

describe('steps and bounces', () => {
  it('rest between steps', () => {
    const pace: Pace = { stepped: { count: 4, moving: 0.25, swing: 0 } };
    expect([0.1, 0.18, 0.26, 0.43, 0.99].map((t) => paced(pace, t))).toEqual(
      [0, 0, 0.25, 0.25, expect.any(Number)].map((v) => v),
    );
  });

  it('bounce each time to the height they keep', () => {
    const values = along({ bounce: { count: 2, height: 0.25 } }, 100_000);
    const highest: number[] = [];
    for (let k = 1; k + 1 < values.length; k++)
      if (values[k]! < values[k - 1]! && values[k]! <= values[k + 1]!) highest.push(1 - values[k]!);
    expect(highest).toEqual([expect.closeTo(0.25, 4), expect.closeTo(0.0625, 4)]);
  });
});
