import { describe, expect, it } from 'vitest';
import type { FrameGuides, LinearFrame } from '../frame';
import { LearnedFilter, type Network } from './learnedFilter';
import { INPUTS, WHOLE } from './network';

/** Gives back the light that it gets, and notes the sizes of the pieces. */
class Mirror implements Network {
  readonly sizes: [number, number][] = [];
  run(planes: Float32Array, width: number, height: number): Promise<Float32Array> {
    expect(planes.length).toBe(INPUTS * width * height);
    expect([width % WHOLE, height % WHOLE]).toEqual([0, 0]);
    expect(planes.every((value) => value >= 0 && value <= 1)).toBe(true);
    this.sizes.push([width, height]);
    return Promise.resolve(planes.slice(0, 3 * width * height));
  }
}

function frame(width: number, height: number, light: (k: number) => number): [LinearFrame, FrameGuides] {
  const plane = (value: number) => new Float32Array(width * height).fill(value);
  const beauty = Float32Array.from({ length: width * height * 4 }, (_, k) => (k % 4 === 3 ? 1 : light(k)));
  const guides = { normal: [plane(0), plane(0), plane(-1)], albedo: [plane(2), plane(0.5), plane(0)], depth: plane(9) };
  return [{ width, height, beauty, guides }, guides];
}

async function most(width: number, height: number, light: (k: number) => number): Promise<number> {
  const [given, guides] = frame(width, height, light);
  const found = await new LearnedFilter(new Mirror()).filter(given, guides);
  let worst = 0;
  for (let p = 0; p < width * height; p++)
    for (let c = 0; c < 3; c++) {
      const truth = given.beauty[p * 4 + c]!;
      worst = Math.max(worst, Math.abs(found[p * 3 + c]! - truth) / (1e-4 + truth));
    }
  return worst;
}

describe('the learned filter', () => {
  it('codes light and brings it back, from black to a lamp, whatever the size of the picture', async () => {
    const light = (k: number) => [0, 1e-5, 0.003, 0.2, 1, 40, 3000][k % 7]!;
    for (const [width, height] of [[1, 1], [16, 16], [17, 3], [130, 75]] as const) expect(await most(width, height, light)).toBeLessThan(0.002); // prettier-ignore
    expect(await most(20, 20, () => 0)).toBe(0);
  });

  it('takes a large picture in pieces that fit together', async () => {
    const network = new Mirror();
    const [given, guides] = frame(1500, 900, (k) => (k % 997) / 500);
    const found = await new LearnedFilter(network).filter(given, guides);
    expect(network.sizes.length).toBeGreaterThan(3);
    expect(Math.max(...network.sizes.map(([width, height]) => width * height))).toBeLessThan(700_000);
    for (let p = 0; p < 1500 * 900; p += 37)
      expect(Math.abs(found[p * 3 + 1]! - given.beauty[p * 4 + 1]!)).toBeLessThan(0.003);
  });

  it('is not upset by what is no light', async () => {
    const [given, guides] = frame(16, 16, (k) => (k === 8 ? Infinity : k === 40 ? -1 : 0.2));
    const found = await new LearnedFilter(new Mirror()).filter(given, guides);
    expect(found.every(Number.isFinite)).toBe(true);
  });
});
