import { describe, expect, it } from 'vitest';
import {
  BorderCurves,
  fitAxis,
  fitCircle,
  pieceMesh,
  quaternionAbout,
  rotateVector,
  normalize,
  type Vector,
} from './index';

const AXIS = normalize([0.3, 0.9, -0.2]);
const TURN = quaternionAbout(normalize([1, 0.2, 0.4]), 0.8);

/** Points of a cone (or cylinder) round the y axis, over a part of its turn, then turned and moved. */
function surface(radius: number, rise: number, span: number, noise = 0) {
  let state = 1;
  const random = () => ((state = (state * 48271) % 2147483647) / 2147483647) * 2 - 1;
  const points: Vector[] = [];
  const normals: Vector[] = [];
  for (let j = 0; j < 8; j++) {
    for (let k = 0; k < 24; k++) {
      const [h, angle] = [(j / 7) * 40 - 20, (k / 23) * span];
      const r = radius + rise * h + noise * random();
      const n = normalize([Math.cos(angle), -rise, Math.sin(angle)]);
      const moved = rotateVector([r * Math.cos(angle), h, r * Math.sin(angle)], TURN);
      points.push([moved[0] + 100, moved[1] - 50, moved[2] + 7]);
      normals.push(rotateVector(n, TURN));
    }
  }
  return { points, normals };
}

const trueAxis = rotateVector([0, 1, 0], TURN);
const offAxis = (point: Vector): number => {
  const d = [point[0] - 100, point[1] + 50, point[2] - 7];
  const along = d.reduce((sum, v, k) => sum + v * trueAxis[k]!, 0);
  return Math.hypot(...d.map((v, k) => v - along * trueAxis[k]!));
};
const tilt = (direction: Vector): number =>
  Math.acos(Math.min(1, Math.abs(direction.reduce((sum, v, k) => sum + v * trueAxis[k]!, 0))));

describe('the axis of a round face', () => {
  it('of a whole cylinder is its own', () => {
    const { points, normals } = surface(12, 0, 2 * Math.PI);
    const found = fitAxis(points, normals)!;
    expect(found.kind).toBe('cylinder');
    expect(found.radius).toBeCloseTo(12, 4);
    expect(found.residual).toBeLessThan(1e-3);
    expect(tilt(found.direction)).toBeLessThan(1e-4);
    expect(offAxis(found.point)).toBeLessThan(1e-3);
  });

  it('is found from a quarter of the turn', () => {
    const { points, normals } = surface(12, 0, Math.PI / 2);
    const found = fitAxis(points, normals)!;
    expect(found.radius).toBeCloseTo(12, 2);
    expect(tilt(found.direction)).toBeLessThan(1e-3);
    expect(offAxis(found.point)).toBeLessThan(0.02);
  });

  it('of a cone comes with its slope', () => {
    const { points, normals } = surface(20, 0.35, 2 * Math.PI);
    const found = fitAxis(points, normals)!;
    expect(found.kind).toBe('cone');
    expect(Math.abs(found.slope)).toBeCloseTo(Math.atan(0.35), 3);
    expect(tilt(found.direction)).toBeLessThan(1e-3);
    expect(offAxis(found.point)).toBeLessThan(0.01);
  });

  it('of a noisy cylinder is near, and the residual says how noisy it is', () => {
    const { points, normals } = surface(12, 0, 2 * Math.PI, 0.2);
    const found = fitAxis(points, normals)!;
    expect(tilt(found.direction)).toBeLessThan(0.01);
    expect(offAxis(found.point)).toBeLessThan(0.1);
    // Even noise of this reach has a root mean square of 0.2 / √3.
    expect(found.residual).toBeGreaterThan(0.08);
    expect(found.residual).toBeLessThan(0.15);
  });

  it('is not made up for a sphere, a plane without a round border, or too few points', () => {
    const ball = pieceMesh({ kind: 'sphere', radius: 10 });
    const vertices = (array: Float32Array) => Array.from({ length: array.length / 3 }, (_, k) => [...array.subarray(k * 3, k * 3 + 3)] as unknown as Vector); // prettier-ignore
    const found = fitAxis(vertices(ball.positions), vertices(ball.normals));
    // A barrel of a ball is no cylinder: either nothing, or a residual that says so.
    expect(found === null || found.residual > 1).toBe(true);
    const square: Vector[] = [[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1], [3, 0, 0.5]]; // prettier-ignore
    expect(fitAxis(square, square.map(() => AXIS))).toBeNull(); // prettier-ignore
    expect(fitAxis(square.slice(0, 3), square.slice(0, 3))).toBeNull();
  });
});

describe('a circle', () => {
  it('is found in space from an arc', () => {
    const arc = Array.from({ length: 9 }, (_, k) => rotateVector([5 * Math.cos(k / 4), 0, 5 * Math.sin(k / 4)], TURN));
    const found = fitCircle(arc)!;
    expect(found.radius).toBeCloseTo(5, 6);
    expect(Math.hypot(...found.center)).toBeLessThan(1e-5);
    expect(found.residual).toBeLessThan(1e-6);
  });

  it('is not found in points on a line or at one place', () => {
    expect(fitCircle([[0, 0, 0], [1, 1, 1], [2, 2, 2], [3, 3, 3]])).toBeNull(); // prettier-ignore
    expect(fitCircle([[1, 1, 1], [1, 1, 1], [1, 1, 1]])).toBeNull(); // prettier-ignore
  });
});

describe('a picked place', () => {
  const box = new BorderCurves(pieceMesh({ kind: 'box', width: 100, height: 50, depth: 20, bevel: 0 }));
  const mesh = pieceMesh({ kind: 'box', width: 100, height: 50, depth: 20, bevel: 0 });
  const front = mesh.faces!.indexOf(4);

  it('is drawn to corners and middles of straight edges, and else stays where it is', () => {
    expect(box.snap(front, [48, 49, 10], 5)).toEqual({ kind: 'corner', point: [50, 50, 10] });
    expect(box.snap(front, [1, 48, 10], 5)).toEqual({ kind: 'middle', point: [0, 50, 10] });
    expect(box.snap(front, [10, 20, 10], 5)).toEqual({ kind: 'surface', point: [10, 20, 10] });
  });

  it('at the rim of a round face is drawn to its centre', () => {
    const made = pieceMesh({ kind: 'cylinder', radius: 30, height: 80, bevel: 0 });
    const drum = new BorderCurves(made);
    const top = made.faces!.findIndex((_, t) => made.positions[made.indices[t * 3]! * 3 + 1] === 80 && made.normals[made.indices[t * 3]! * 3 + 1] === 1); // prettier-ignore
    const found = drum.snap(top, [29.5, 80, 0], 3);
    expect(found.kind).toBe('circle');
    found.point.forEach((v, k) => expect(v).toBeCloseTo([0, 80, 0][k]!, 3));
    expect(found.circle!.radius).toBeCloseTo(30, 2);
    expect(drum.snap(top, [10, 80, 0], 3).kind).toBe('surface');
  });

  it('gives the axis of the face it is on', () => {
    const made = pieceMesh({ kind: 'tube', radius: 40, wall: 10, height: 60 });
    const tube = new BorderCurves(made);
    const kinds = [...new Set(made.faces)].map((face) => tube.axisOf(made.faces!.indexOf(face))!);
    expect(kinds.map(({ kind }) => kind).sort()).toEqual(['cylinder', 'cylinder', 'flat', 'flat']);
    for (const { direction, point } of kinds) {
      expect(Math.abs(direction[1])).toBeCloseTo(1, 4);
      expect(Math.hypot(point[0], point[2])).toBeLessThan(1e-2);
    }
    expect(box.axisOf(front)).toBeNull();
  });
});
