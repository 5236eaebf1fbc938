import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { length, subtract, type Vector } from '../geometry';
import { spreadAlong } from './sweep';

describe('a sweep along places', () => {
  it('passes them at even speed, from its first frame to its last', () => {
    // The hand went slowly at first.
    const points = [0, 1, 2, 3, 4, 10, 20, 30].map((x): Vector => [x, 0, 0]);
    const keys = spreadAlong(points, 11, 41);
    expect(keys[0]).toEqual({ at: 0, frame: 11 });
    expect(keys.at(-1)).toEqual({ at: 7, frame: 41 });
    for (const { at, frame } of keys) expect(frame - 11).toBe(points[at]![0]);
  });

  it('is none where nothing was moved, or there is no time', () => {
    expect(spreadAlong([], 1, 10)).toEqual([]);
    expect(spreadAlong([[1, 2, 3]], 1, 10)).toEqual([]);
    expect(spreadAlong([[1, 2, 3], [1, 2, 3]], 1, 10)).toEqual([]); // prettier-ignore
    expect(spreadAlong([[0, 0, 0], [9, 0, 0]], 5, 5)).toEqual([]); // prettier-ignore
  });

  it('has ascending frames and places, few of them, whatever the way', () => {
    const place = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }), fc.constant(0));
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 2, maxLength: 80 }),
        fc.integer({ min: 2, max: 300 }),
        (points, last) => {
          const keys = spreadAlong(points, 1, last);
          const moved = points.some((point, k) => k > 0 && length(subtract(point, points[k - 1]!)) > 0);
          if (!moved) return expect(keys).toEqual([]);
          expect(keys.length).toBeGreaterThan(0);
          expect(keys.length).toBeLessThanOrEqual(12);
          for (let k = 1; k < keys.length; k++) {
            expect(keys[k]!.at).toBeGreaterThan(keys[k - 1]!.at);
            expect(keys[k]!.frame).toBeGreaterThan(keys[k - 1]!.frame);
          }
          expect(keys.at(-1)!.frame).toBeLessThanOrEqual(last);
        },
      ),
    );
  });
});
