// Sources of maps on their own, without WebAssembly.

import { describe, expect, test } from 'vitest';
import * as noise from '../assembly/map/noise?plain';

const PATTERNS = ['value', 'gradient', 'cells', 'cracks', 'flakes'];

/** Places spread evenly through many cells (additive recurrence on the plastic number; Roberts, 2018). */
function places(count: number): [number, number, number][] {
  const g = 1.2207440846057596;
  return Array.from(
    { length: count },
    (_, k) => [1, 2, 3].map((p) => ((k / g ** p) % 1) * 57.3) as [number, number, number],
  );
}

function moments(pattern: number, width: number, octaves = 1): { mean: number; deviation: number } {
  const values = places(20_000).map(([x, y, z]) => noise.noiseAt(pattern, x, y, z, width, octaves, 0.5, 3) as number);
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return { mean, deviation: Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length) };
}

describe.each(PATTERNS.map((name, pattern) => ({ name, pattern })))('noise of $name', ({ pattern }) => {
  test('is as bright on average from any distance, and fades to that alone', () => {
    const near = moments(pattern, 0);
    for (const width of [0.5, 1, 1.25, 2]) expect(moments(pattern, width).mean).toBeCloseTo(near.mean, 2);
    expect(moments(pattern, 1.25).deviation).toBeLessThan(near.deviation * 0.6);
    expect(moments(pattern, 2).deviation).toBe(0);
  });

  test('keeps its mean with finer layers of grain', () => {
    expect(moments(pattern, 0, 4).mean).toBeCloseTo(moments(pattern, 0).mean, 2);
  });

  test('stays between 0 and 1, differs by its seed, and is the same again', () => {
    const values = places(500).map(([x, y, z]) => noise.noiseAt(pattern, x, y, z, 0, 1, 0.5, 3) as number);
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...values)).toBeLessThanOrEqual(1);
    const others = places(500).map(([x, y, z]) => noise.noiseAt(pattern, x, y, z, 0, 1, 0.5, 4) as number);
    expect(others).not.toEqual(values);
    expect(places(500).map(([x, y, z]) => noise.noiseAt(pattern, x, y, z, 0, 1, 0.5, 3) as number)).toEqual(values);
  });
});

test.each([0, 1, 2, 3])('noise of pattern %i has no seams where its cells meet', (pattern) => {
  for (let k = 0; k < 200; k++) {
    const [x, y, z] = [k % 7, (k * 0.37) % 5, (k * 0.73) % 6];
    const at = (d: number) => noise.noiseAt(pattern, x + d, y, z, 0, 1, 0.5, 1) as number;
    expect(Math.abs(at(1e-3) - at(-1e-3))).toBeLessThan(0.02);
  }
});
