import { describe, expect, it } from 'vitest';
import type { FrameGuides, LinearFrame } from './frame';
import { steadyFrame } from './steady';

const SIZE = { width: 48, height: 24 };
const COUNT = SIZE.width * SIZE.height;
const NOISE = 0.05;

/** A wall whose albedo has an edge at `edge`, evenly lit, with noise of its own in each frame. */
function wall(seed: number, over: { edge?: number; light?: number; motion?: [number, number]; normal?: number } = {}) {
  const { edge = 20, light = 0.5, motion = [0, 0], normal = 1 } = over;
  let state = seed * 7919 + 1;
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647;
  const plane = (value: (x: number) => number) => Float32Array.from({ length: COUNT }, (_, p) => value(p % SIZE.width));
  const tint = plane((x) => (x < edge ? 0.8 : 0.2));
  const beauty = new Float32Array(COUNT * 4);
  for (let p = 0; p < COUNT; p++) {
    // Three even numbers make a bell with a deviation of one half.
    const chance = (random() + random() + random() - 1.5) * 2 * NOISE;
    for (let k = 0; k < 3; k++) beauty[p * 4 + k] = tint[p]! * (light + chance);
    beauty[p * 4 + 3] = 1;
  }
  const guides: FrameGuides = {
    normal: [plane(() => 0), plane(() => Math.sqrt(1 - normal * normal)), plane(() => normal)],
    albedo: [tint, tint, tint],
    depth: plane(() => 500),
    noise: tint.map((v) => v * NOISE),
    motion: [plane(() => motion[0]), plane(() => motion[1])],
  };
  return { ...SIZE, beauty, guides } satisfies LinearFrame;
}

/** Deviation of the light from what it is without noise, over the middle of the picture. */
function deviation({ beauty, guides }: LinearFrame, light = 0.5): number {
  let sum = 0;
  let count = 0;
  for (let y = 4; y < SIZE.height - 4; y++)
    for (let x = 6; x < SIZE.width - 6; x++) {
      const p = y * SIZE.width + x;
      sum += (beauty[p * 4]! / guides!.albedo[0]![p]! - light) ** 2;
      count++;
    }
  return Math.sqrt(sum / count);
}

describe('frames beside a frame', () => {
  it('take a third of the variance where nothing moves, and the frame knows its new noise', () => {
    const frame = wall(1);
    const steady = steadyFrame(frame, { before: wall(2), after: wall(3) }, 1);
    expect(deviation(frame)).toBeCloseTo(NOISE, 2);
    expect(deviation(steady) / deviation(frame)).toBeLessThan(0.63);
    expect(steady.guides!.noise![300]! / frame.guides.noise![300]!).toBeCloseTo(Math.sqrt(1 / 3), 1);
  });

  it('are followed along the motion, and an edge that moves stays sharp', () => {
    const motion: [number, number] = [2.5, 0];
    const frame = wall(1, { edge: 22.5, motion });
    const steady = steadyFrame(
      frame,
      { before: wall(2, { edge: 20, motion }), after: wall(3, { edge: 25, motion }) },
      1,
    );
    expect(deviation(steady) / deviation(frame)).toBeLessThan(0.65);
    // Without the motion most of the edge would be met by the other colour, and left alone.
    const astray = steadyFrame(frame, { before: wall(2, { edge: 20 }), after: wall(3, { edge: 25 }) }, 1);
    expect(deviation(astray)).toBeGreaterThan(deviation(steady));
    for (const x of [20, 21, 22, 23, 24, 25]) {
      const at = (12 * SIZE.width + x) * 4;
      expect(steady.beauty[at]!).toBeCloseTo(0.5 * (x < 22.5 ? 0.8 : 0.2), 1);
    }
  });

  it('count by the amount', () => {
    const frame = wall(1);
    const beside = { before: wall(2), after: wall(3) };
    const half = deviation(steadyFrame(frame, beside, 0.5));
    expect(half).toBeLessThan(deviation(frame));
    expect(half).toBeGreaterThan(deviation(steadyFrame(frame, beside, 1)));
    expect(steadyFrame(frame, beside, 0)).toBe(frame);
  });

  it.each([
    ['of another surface', { normal: 0.9 }, 0.5],
    ['under other light', { light: 1 }, 0.5],
  ])('%s leave it alone', (_, over, light) => {
    const frame = wall(1);
    const steady = steadyFrame(frame, { before: wall(2, over), after: wall(3, over) }, 1);
    expect(deviation(steady, light)).toBeCloseTo(deviation(frame, light), 2);
  });

  it('under light of another colour that is as bright leave it alone', () => {
    const frame = wall(1);
    const red = (seed: number): LinearFrame => {
      const each = wall(seed);
      const beauty = each.beauty.map((v, k) => (k % 4 === 3 ? v : k % 4 === 0 ? v / 0.2126 : 0));
      return { ...each, beauty };
    };
    const steady = steadyFrame(frame, { before: red(2), after: red(3) }, 1);
    for (let k = 1; k < steady.beauty.length; k += 4) expect(steady.beauty[k]!).toBeCloseTo(frame.beauty[k]!, 1);
    expect(deviation(steady)).toBeCloseTo(deviation(frame), 2);
  });

  it('of another size, without motion, or from beyond the edge leave it alone', () => {
    const frame = wall(1);
    const small = { ...wall(2), width: 24, height: 48 };
    expect(steadyFrame(frame, { before: small, after: null }, 1)).toBe(frame);
    const still: FrameGuides = { ...frame.guides };
    delete still.motion;
    const plain = { ...frame, guides: still };
    expect(steadyFrame(plain, { before: plain, after: wall(3) }, 1)).toBe(plain);
    const gone = wall(1, { motion: [1000, NaN] });
    expect(steadyFrame(gone, { before: gone, after: wall(3) }, 1).beauty).toEqual(gone.beauty);
  });
});
