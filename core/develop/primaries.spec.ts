import { describe, expect, it } from 'vitest';
import { forDisplay } from './primaries';

const p3 = (color: number[]) => [...forDisplay(new Float32Array([...color, 0.5]), 'p3')];

describe('light for a display of Display P3', () => {
  it('keeps grey and white, and leaves alpha alone', () => {
    for (const grey of [0.18, 1]) expect(p3([grey, grey, grey])).toEqual([grey, grey, grey, 0.5].map((v) => expect.closeTo(v, 4))); // prettier-ignore
  });

  it('shows the purest colours of BT.709 less pure, where the standard has them', () => {
    // Coded values of pure BT.709 red on a display of P3: 0.9175, 0.2003, 0.1386.
    expect(p3([1, 0, 0]).slice(0, 3)).toEqual([0.8225, 0.0332, 0.0171].map((v) => expect.closeTo(v, 3)));
    expect(p3([0, 1, 0])[1]).toBeCloseTo(0.9668, 3);
  });

  it('is the very same light for BT.709', () => {
    const light = new Float32Array([1, 2, 3, 1]);
    expect(forDisplay(light, 'bt709')).toBe(light);
  });
});
