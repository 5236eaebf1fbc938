import { describe, expect, it } from 'vitest';
import { newCamera, UserProblem, type Camera } from '../document';
import type { Vector } from '../geometry';
import {
  cameraOf,
  fromDirections,
  fromRectangle,
  onGround,
  pinholeOf,
  sightOf,
  type Pinhole,
  type Sight,
} from './index';

const camera = (over: Partial<Camera>): Pinhole =>
  pinholeOf({
    ...newCamera({ position: [400, 900, 1600], target: [-50, 40, 30], focalLength: 35, roll: 0.05 }),
    ...over,
  });
/** Corners of a rectangle about the origin. */
const marked = (by: Pinhole, width: number, depth: number) =>
  [[-1, 1], [1, 1], [1, -1], [-1, -1]].map(([x, z]) => sightOf(by, [(x! * width) / 2, 0, (z! * depth) / 2])!) as unknown as [Sight, Sight, Sight, Sight]; // prettier-ignore
const near = (found: Pinhole, real: Pinhole, part: number) => {
  const reach = Math.hypot(...real.position);
  found.position.forEach((v, k) => expect(Math.abs(v - real.position[k]!)).toBeLessThan(part * reach));
  expect(Math.abs(found.focal / real.focal - 1)).toBeLessThan(part);
  for (const axis of ['right', 'up', 'forward'] as const)
    found[axis].forEach((v, k) => expect(Math.abs(v - real[axis][k]!)).toBeLessThan(part));
};
const CAMERAS: [string, Partial<Camera>][] = [
  ['from the right', {}],
  ['from the left, wide', { position: [-700, 500, 900], focalLength: 24 }],
  ['from far, long', { position: [3000, 2500, 8000], focalLength: 120, roll: -0.2 }],
  ['of 2 mm', { position: [1.2, 3, 4], target: [0, 0, 0.1], focalLength: 60 }],
];

describe('a marked rectangle', () => {
  it.each(CAMERAS)('tells a camera %s, with both edges or one', (_, over) => {
    const real = camera(over);
    const size = over.position?.[1] === 3 ? 1 : 300;
    const corners = marked(real, size, size * 1.5);
    near(fromRectangle({ corners, width: size, depth: size * 1.5, focal: null }).camera, real, 1e-4);
    const found = fromRectangle({ corners, width: size, depth: null, focal: null });
    near(found.camera, real, 1e-3);
    expect(found.depth / size).toBeCloseTo(1.5, 2);
    expect(found.miss).toBeLessThan(1e-5);
  });

  it('marked the other way round is seen from above all the same', () => {
    const real = camera({});
    const [a, b, c, d] = marked(real, 300, 200);
    const found = fromRectangle({ corners: [b, a, d, c], width: 300, depth: 200, focal: null });
    near(found.camera, real, 1e-3);
  });

  it('bears marks that are half a pixel off', () => {
    const real = camera({});
    let seed = 7;
    const off = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) / 640;
    const corners = marked(real, 600, 500).map(([x, y]) => [x + off(), y + off()]) as unknown as [Sight, Sight, Sight, Sight]; // prettier-ignore
    const { camera: found } = fromRectangle({ corners, width: 600, depth: 500, focal: null });
    expect(Math.abs(found.focal / real.focal - 1)).toBeLessThan(0.03);
    expect((Math.acos(found.up[1]) - Math.acos(real.up[1])) * (180 / Math.PI)).toBeLessThan(0.5);
  });

  it('takes a focal length that is known where it tells none itself', () => {
    // Straight along its near edge both far corners are as far apart as they must be, whatever the lens.
    const real = camera({ position: [0, 2000, 0.001], target: [0, 0, 0], roll: 0 });
    const corners = marked(real, 300, 200);
    expect(() => fromRectangle({ corners, width: 300, depth: null, focal: null })).toThrow(UserProblem);
    near(fromRectangle({ corners, width: 300, depth: null, focal: real.focal }).camera, real, 2e-3);
  });

  it.each([
    ['without any size', { width: null, depth: null }, 'marks-no-size'],
    ['crossed', { corners: [[-0.5, -0.2], [0.5, 0.3], [0.5, -0.2], [-0.5, 0.3]] }, 'marks-no-rectangle'],
    ['all at one place', { corners: [[0, 0], [0, 0], [0, 0], [0, 0]] }, 'marks-no-rectangle'],
  ])('%s is refused with a sentence', (_, over, code) => {
    const marks = { corners: marked(camera({}), 300, 200), width: 300, depth: 200, focal: null, ...over };
    expect(() => fromRectangle(marks as never)).toThrow(expect.objectContaining({ code }));
  }); // prettier-ignore
});

describe('marked directions', () => {
  it.each(CAMERAS)('tell a camera %s', (_, over) => {
    const real = camera({ ...over, target: [0, 0, 0] });
    const size = real.position[1] < 10 ? 1 : 300;
    const line = (a: Vector, b: Vector) => [sightOf(real, a)!, sightOf(real, b)!] as const;
    const found = fromDirections({
      across: [line([-size, 0, size], [size, 0, size]), line([-size, 0, -size], [size, 0, -size])],
      away: [line([-size, 0, size], [-size, 0, -size]), line([size, 0, size], [size, 0, -size])],
      origin: sightOf(real, [0, 0, 0])!,
      height: real.position[1],
      focal: null,
    });
    near(found, real, 1e-3);
  });

  it('say nothing of the lens where they run side by side, and nothing of a ground in the sky', () => {
    const flat = { across: [[[-1, -0.5], [1, -0.5]], [[-1, 0], [1, 0]]], away: [[[-0.5, -0.5], [-0.1, 0.2]], [[0.5, -0.5], [0.1, 0.2]]], origin: [0, -0.3], height: 1000 } as const; // prettier-ignore
    expect(() => fromDirections({ ...flat, focal: null })).toThrow(expect.objectContaining({ code: 'marks-no-lens' }));
    const found = fromDirections({ ...flat, focal: 2 });
    expect(found.position[1]).toBeCloseTo(1000);
    expect(() => fromDirections({ ...flat, focal: 2, origin: [0, 0.9] })).toThrow(
      expect.objectContaining({ code: 'marks-sky' }),
    );
  });
});

describe('cameras', () => {
  it('of the document and pinholes are the same, there and back', () => {
    for (const [, over] of CAMERAS) {
      const real = camera(over);
      near(pinholeOf({ sensorWidth: 36, ...cameraOf(real, 36, 500) }), real, 1e-9);
    }
  });

  it('find the ground under a place of the picture', () => {
    const real = camera({});
    const [x, , z] = onGround(real, sightOf(real, [120, 0, -80])!)!;
    expect([x, z].map((v) => Math.round(v))).toEqual([120, -80]);
    expect(onGround(camera({ target: [0, 5000, -900] }), [0, 0.5])).toBeNull();
  });
});
