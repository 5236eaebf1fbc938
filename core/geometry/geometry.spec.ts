import { describe, expect, it } from 'vitest';
import {
  composeTransform,
  invertTransform,
  multiplyTransforms,
  quaternionAbout,
  quaternionFromTurn,
  rotateVector,
  slerp,
  smoothNormals,
  sweepMesh,
  transformBounds,
  transformPoint,
  turnFromQuaternion,
  sideCoordinates,
} from './index';

describe('rotations', () => {
  it('turn a vector by the right hand', () => {
    const [x, y, z] = rotateVector([1, 0, 0], quaternionAbout([0, 1, 0], Math.PI / 2));
    expect([x, y, z]).toEqual([expect.closeTo(0), expect.closeTo(0), expect.closeTo(-1)]);
  });

  it('go to yaw, pitch, roll and back', () => {
    for (const turn of [
      [0.3, -2, 1],
      [1.2, 3, -0.4],
      [Math.PI / 2, 0.7, 0],
      [-Math.PI / 2, -1.1, 0],
    ] as const) {
      const q = quaternionFromTurn(turn);
      const back = quaternionFromTurn(turnFromQuaternion(q));
      expect(Math.abs(q.reduce((sum, part, k) => sum + part * back[k]!, 0))).toBeCloseTo(1, 6);
    }
  });

  it('travel the short way at even speed', () => {
    const a = quaternionAbout([0, 0, 1], 0.2);
    const b = quaternionAbout([0, 0, 1], 1.4);
    const third = slerp(a, b.map((part) => -part) as unknown as typeof b, 1 / 3);
    expect(2 * Math.atan2(third[2], third[3])).toBeCloseTo(0.6, 6);
  });
});

describe('transforms', () => {
  it('have an inverse that undoes them, and none when flat', () => {
    const m = composeTransform([10, -3, 2], quaternionFromTurn([0.4, 1, -2]), [2, 0.5, 3]);
    const same = multiplyTransforms(m, invertTransform(m)!);
    expect(transformPoint(same, [5, 6, 7]).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([5, 6, 7]);
    expect(invertTransform(composeTransform([0, 0, 0], [0, 0, 0, 1], [1, 0, 1]))).toBeNull();
  });

  it('carry boxes', () => {
    const turned = composeTransform([0, 0, 0], quaternionAbout([0, 0, 1], Math.PI / 2), [1, 1, 1]);
    const { low, high } = transformBounds({ low: [0, 0, 0], high: [4, 1, 1] }, turned);
    expect(low[0]).toBeCloseTo(-1);
    expect(high[1]).toBeCloseTo(4);
  });
});

describe('meshes', () => {
  it('of a sweep face the camera everywhere: triangle sides agree with their normals', () => {
    const { positions, normals, indices } = sweepMesh(2000, 500);
    const smooth = smoothNormals(positions, indices);
    for (let at = 0; at < normals.length; at += 3) {
      const agreement =
        smooth[at]! * normals[at]! + smooth[at + 1]! * normals[at + 1]! + smooth[at + 2]! * normals[at + 2]!;
      expect(agreement).toBeGreaterThan(0.95);
    }
  });
});

describe('coordinates from the sides', () => {
  it('run across and down as each of the six sides is seen from outside, 100 mm a picture', () => {
    const at = (position: number[], normal: number[]) => [
      ...sideCoordinates({
        positions: new Float32Array(position),
        normals: new Float32Array(normal),
        indices: new Uint32Array(),
      }),
    ];
    // A point up and to the right, seen from each side.
    expect(at([20, 30, 50], [0, 0, 1])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
    expect(at([-20, 30, -50], [0, 0, -1])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
    expect(at([50, 30, -20], [1, 0, 0])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
    expect(at([-50, 30, 20], [-1, 0, 0])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
    expect(at([20, 50, -30], [0, 1, 0])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
    expect(at([20, -50, 30], [0, -1, 0])).toEqual([expect.closeTo(0.7), expect.closeTo(0.2)]);
  });
});
