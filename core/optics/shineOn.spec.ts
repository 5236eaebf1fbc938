import { describe, expect, it } from 'vitest';
import { dot, length, normalize, scale, subtract, type Vector } from '../geometry';
import { shineOn } from './shineOn';

const random = (seed: number) => {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
};
const away = (a: Vector, b: Vector) => normalize(subtract(a, b));

describe('a lamp that shines on a place', () => {
  it('is seen mirrored there, at its distance, on planes, spheres and cylinders', () => {
    const next = random(7);
    const any = (): Vector => [next() - 0.5, next() - 0.5, next() - 0.5];
    for (let k = 0; k < 200; k++) {
      // Of a sphere, of a shaft about y, of a plane.
      const shapes: Vector[] = [normalize(any()), normalize([next() - 0.5, 0, next() - 0.5]), [0, 1, 0]];
      const normal = shapes[k % 3]!;
      const point = scale(normal, 40);
      const eye = scale(any(), 900);
      const lamp = shineOn('mirrored', { point, normal, eye }, 350, [0, 0, 0]);
      expect(length(subtract(lamp, point))).toBeCloseTo(350, 6);
      // Half way between lamp and eye is the normal, on the side that is seen.
      const half = normalize(away(lamp, point).map((v, axis) => v + away(eye, point)[axis]!) as unknown as Vector);
      expect(Math.abs(dot(half, normal))).toBeCloseTo(1, 6);
      expect(dot(half, away(eye, point))).toBeGreaterThan(0);
    }
  });

  it('lights it squarely from the side from which it is seen', () => {
    const seen = { point: [10, 0, 0] as Vector, normal: [0, 0, -1] as Vector, eye: [0, 50, 400] as Vector };
    expect(shineOn('square', seen, 100, [0, 0, 0])).toEqual([10, 0, 100]);
  });

  it('throws the shadow of what stands in between on it', () => {
    const seen = { point: [100, 0, 0] as Vector, normal: [0, 1, 0] as Vector, eye: [0, 300, 900] as Vector };
    const lamp = shineOn('shadow', seen, 500, [0, 60, 0]);
    // Lamp, thrower and place lie on one line, in this order.
    expect(dot(away(lamp, [0, 60, 0]), away([0, 60, 0], [100, 0, 0]))).toBeCloseTo(1, 9);
    expect(length(subtract(lamp, [0, 60, 0]))).toBeCloseTo(500, 6);
  });
});
