import { describe, expect, it } from 'vitest';
import { newCamera } from '../document';
import type { Vector } from '../geometry';
import { pinholeOf, pyramidOf, sightOf, solveMotion, trackPoint, type Grey, type Pinhole, type Sight } from './index';

/** Even noise from -1 to 1, the same in every run. */
function noise(seed: number): () => number {
  let at = seed;
  return () => ((at = (at * 16807) % 2147483647) / 2147483647) * 2 - 1;
}
const gauss = (next: () => number) => () => next() + next() + next();

const FRAMES = 100;
const HALF = 640;
/** A camera that is carried past, a little shaken. */
const real = (frame: number): Pinhole =>
  pinholeOf({
    ...newCamera({}),
    position: [-900 + 14 * frame, 700 + 60 * Math.sin(frame / 9), 1700 - 3 * frame],
    target: [20 * Math.sin(frame / 5), 60, 0],
    roll: 0.02 * Math.sin(frame / 7),
    focalLength: 35,
  });
const CORNERS: Vector[] = [[-250, 0, 200], [250, 0, 200], [250, 0, -200], [-250, 0, -200]]; // prettier-ignore
const OTHERS: Vector[] = [[-400, 120, -300], [380, 200, -250], [0, 90, 40], [500, 10, 250], [-520, 40, 120], [120, 300, -420]]; // prettier-ignore

describe('a moving camera', () => {
  it('is found from corners and points tracked with a noise of 0.3 pixels', () => {
    const off = gauss(noise(11));
    const seen = (point: Vector): (Sight | null)[] =>
      Array.from({ length: FRAMES }, (_, k) => {
        const at = sightOf(real(k), point);
        return at && [at[0] + (0.3 * off()) / HALF, at[1] + (0.3 * off()) / HALF];
      });
    const tracks = [
      ...CORNERS.map((place) => ({ place, sights: seen(place) })),
      // Seen for a while only, each.
      ...OTHERS.map((point, k) => ({ place: null, sights: seen(point).map((at, frame) => (frame % 100 >= k * 8 && frame < k * 8 + 60 ? at : null)) })), // prettier-ignore
    ];
    const rough = { ...real(40), focal: real(40).focal * 1.04 };
    const { cameras, miss, misses, places } = solveMotion(tracks, { frame: 40, camera: rough });
    expect(miss * HALF).toBeLessThan(0.5);
    expect(misses.every((each) => each! * HALF < 1)).toBe(true);
    cameras.forEach((camera, frame) => {
      expect(Math.abs(camera!.focal / real(frame).focal - 1)).toBeLessThan(0.01);
      const tilt = Math.acos(camera!.up.reduce((sum, v, k) => sum + v * real(frame).up[k]!, 0));
      expect((tilt * 180) / Math.PI).toBeLessThan(0.3);
    });
    OTHERS.forEach((point, k) => places[4 + k]!.forEach((v, c) => expect(Math.abs(v - point[c]!)).toBeLessThan(12)));
  });

  it('is found beyond frames on which a corner is hidden, by the points that were found before', () => {
    const seen = (point: Vector) => Array.from({ length: 40 }, (_, k) => sightOf(real(k), point));
    const tracks = [
      ...CORNERS.map((place, k) => ({ place, sights: seen(place).map((at, frame) => (k < 2 && frame > 20 ? null : at)) })), // prettier-ignore
      ...OTHERS.map((point) => ({ place: null, sights: seen(point) })),
    ];
    const { cameras, miss } = solveMotion(tracks, { frame: 0, camera: real(0) }, false);
    expect(cameras.every((camera) => camera !== null)).toBe(true);
    expect(miss * HALF).toBeLessThan(0.01);
    cameras[39]!.position.forEach((v, k) => expect(v).toBeCloseTo(real(39).position[k]!, 0));
  });

  it('is left out where too little is seen, without losing the other frames', () => {
    const tracks = CORNERS.map((place, k) => ({
      place,
      sights: Array.from({ length: 30 }, (_, frame) => (k === 0 && frame >= 20 ? null : sightOf(real(frame), place))),
    }));
    const { cameras } = solveMotion(tracks, { frame: 5, camera: real(5) }, false);
    expect(cameras.map((camera) => camera !== null).lastIndexOf(true)).toBe(19);
    expect(() => solveMotion(tracks, { frame: 25, camera: real(25) })).toThrow(expect.objectContaining({ code: 'tracks-few' })); // prettier-ignore
  });
});

describe('tracking a point', () => {
  const [width, height] = [320, 180];
  /** A picture of soft spots, moved, turned and made larger, brighter or darker. */
  const picture = (dx: number, dy: number, turn = 0, size = 1, light = 1): Grey => {
    const next = noise(3);
    const spots = Array.from({ length: 1200 }, () => [next() * 200, next() * 130, 2.5 + 2 * next(), next()] as const);
    const values = new Float32Array(width * height).fill(0.5);
    const [c, s] = [Math.cos(turn) * size, Math.sin(turn) * size];
    for (const [x, y, r, v] of spots) {
      const [px, py] = [160 + c * x - s * y + dx, 90 + s * x + c * y + dy];
      for (let j = Math.max(0, Math.floor(py - 14)); j < Math.min(height, py + 14); j++)
        for (let i = Math.max(0, Math.floor(px - 14)); i < Math.min(width, px + 14); i++)
          values[j * width + i]! += 0.3 * v * Math.exp(-((i - px) ** 2 + (j - py) ** 2) / (2 * (r * size) ** 2));
    }
    return { width, height, values: values.map((v) => v * light) };
  };
  const pyramid = (grey: Grey) => pyramidOf(grey, 4);

  it.each([
    ['a part of a pixel', 0.4, -0.3],
    ['many pixels', 17.3, 9.8],
    ['nothing', 0, 0],
  ])('follows %s', (_, dx, dy) => {
    const found = trackPoint(pyramid(picture(0, 0)), pyramid(picture(dx, dy)), { x: 150, y: 80 })!;
    expect(found.x - 150).toBeCloseTo(dx, 1);
    expect(found.y - 80).toBeCloseTo(dy, 1);
  });

  it('bears some turning, growing and a change of light', () => {
    const found = trackPoint(pyramid(picture(0, 0)), pyramid(picture(2, 1, 0.05, 1.05, 0.93)), { x: 160, y: 90 })!;
    expect(Math.hypot(found.x - 162, found.y - 91)).toBeLessThan(0.4);
  });

  it('is lost where there is nothing to hold on to, where it leaves, and where it is covered', () => {
    const flat: Grey = { width, height, values: new Float32Array(width * height).fill(0.5) };
    expect(trackPoint(pyramid(flat), pyramid(flat), { x: 150, y: 80 })).toBeNull();
    expect(trackPoint(pyramid(picture(0, 0)), pyramid(picture(60, 0)), { x: 300, y: 80 })).toBeNull();
    const covered = picture(0, 0);
    for (let y = 50; y < 110; y++) covered.values.fill(0.1 + (y % 7) / 10, y * width + 120, y * width + 180);
    expect(trackPoint(pyramid(picture(0, 0)), pyramid(covered), { x: 150, y: 80 })).toBeNull();
  });
});
