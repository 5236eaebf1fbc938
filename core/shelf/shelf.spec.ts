import { describe, expect, it } from 'vitest';
import { finishSchema, newFinish } from '../document';
import { boundsOfPositions } from '../geometry';
import { finishMaps } from '../trace';
import { FINISH_SHELF, sampleMeshes, sampleScene } from './index';
import { metalColors } from './metals';

const all = FINISH_SHELF.flatMap(({ finishes }) => finishes);

describe('the shelf', () => {
  it('has at least eighty finishes, each of a name of its own', () => {
    expect(all.length).toBeGreaterThanOrEqual(80);
    expect(new Set(all.map(({ name }) => name)).size).toBe(all.length);
  });

  it.each(all.map((finish) => [finish.name, finish] as const))('holds only what a document takes: %s', (_, finish) => {
    expect(finishSchema.safeParse(newFinish(structuredClone(finish))).error?.issues).toBeUndefined();
  });

  it('has for every family of materials something to start from', () => {
    expect(FINISH_SHELF.every(({ finishes }) => finishes.length >= 3)).toBe(true);
  });

  it('lays nothing by coordinates, which solids do not have', () => {
    for (const finish of all)
      for (const { projection } of finishMaps(newFinish(finish))) expect(projection).not.toBe('coordinates');
  });
});

describe('a metal by its constants', () => {
  it('is what Fresnel gives at normal incidence', () => {
    // ((n - 1)² + k²) / ((n + 1)² + k²)
    const { baseColor } = metalColors([
      [2, 0.2, 1],
      [3, 3, 1],
    ] as never);
    expect(baseColor[0]).toBeCloseTo((1 + 9) / (9 + 9), 4);
    expect(baseColor[1]).toBeCloseTo((0.64 + 9) / (1.44 + 9), 4);
    expect(baseColor[2]).toBeCloseTo(1 / 5, 4);
  });

  it('never reflects more than there is, towards the edge too', () => {
    for (const { baseMetalness, baseColor, specularColor } of all)
      if (baseMetalness === 1)
        for (const value of [...(baseColor ?? []), ...(specularColor ?? [])]) expect(value).toBeLessThanOrEqual(1);
  });
});

describe('the sample body', () => {
  const [body] = sampleMeshes();

  it('stands on the ground, and is closed: every edge has two sides that face opposite ways along it', () => {
    const { low, high } = boundsOfPositions(body!.positions);
    expect(low[1]).toBeCloseTo(0, 3);
    expect(high[1]).toBeLessThan(60);
    const seen = new Map<string, number>();
    const { indices } = body!;
    for (let t = 0; t < indices.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [indices[t + k]!, indices[t + ((k + 1) % 3)]!];
        seen.set(
          `${Math.min(a, b)}/${Math.max(a, b)}`,
          (seen.get(`${Math.min(a, b)}/${Math.max(a, b)}`) ?? 0) + (a < b ? 1 : -1),
        );
      }
    expect([...seen.values()].every((sum) => sum === 0)).toBe(true);
  });

  it('wears the finish that it is asked to', () => {
    const { parts, finishes } = sampleScene({ name: 'Any', baseColor: [1, 0, 0] });
    expect(finishes[parts[0]!.finish!]!.baseColor).toEqual([1, 0, 0]);
  });
});
