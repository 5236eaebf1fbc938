import { describe, expect, it } from 'vitest';
import { distance, nearestPairs, type Vector } from './index';

describe('pairs of near points', () => {
  const noise = (k: number, channel: number) => Math.abs(Math.sin(k * 12.9898 + channel * 78.233) * 43758.5453) % 1;
  const cloud = (count: number) =>
    Array.from({ length: count }, (_, k) => [noise(k, 0) * 100, noise(k, 1) * 10, noise(k, 2) * 30] as Vector);

  it('are those of the shortest ways, taken one after another', () => {
    const first = cloud(60);
    const second = cloud(100).slice(20);
    const ways = first.flatMap((a, i) => second.map((b, j) => ({ i, j, away: distance(a, b) })));
    ways.sort((a, b) => a.away - b.away || a.i - b.i || a.j - b.j);
    const wanted = new Map<number, number>();
    for (const { i, j } of ways) if (!wanted.has(i) && ![...wanted.values()].includes(j)) wanted.set(i, j);
    const found = nearestPairs(first, second);
    expect(found).toHaveLength(60);
    for (const [i, j] of found) expect(j).toBe(wanted.get(i));
  });

  it('leave over what the other list has too few for, also where all stand at one place', () => {
    expect(nearestPairs([], cloud(3))).toEqual([]);
    expect(nearestPairs([[5, 0, 0], [1, 0, 0]], [[0, 0, 0]])).toEqual([[1, 0]]); // prettier-ignore
    const heap = Array.from({ length: 200 }, (): Vector => [1, 2, 3]);
    const pairs = nearestPairs(heap, heap);
    expect(new Set(pairs.map(([, b]) => b)).size).toBe(200);
  });

  it('of thousands of points that all moved a little are each its own', () => {
    const first = cloud(5000);
    const start = performance.now();
    const pairs = nearestPairs(first, first.map(([x, y, z]) => [x + 0.001, y, z] as Vector)); // prettier-ignore
    expect(performance.now() - start).toBeLessThan(5000);
    expect(pairs.filter(([a, b]) => a === b).length).toBeGreaterThan(4950);
  });
});
