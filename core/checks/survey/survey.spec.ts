import { describe, expect, it } from 'vitest';
import {
  meshKey,
  newCamera,
  newDocument,
  newLight,
  newNode,
  openDocument,
  type Move,
  type ProjectDocument,
  type Shot,
  type Vector3,
} from '../../document';
import { outlineOf } from '../../geometry';
import { newMove } from '../../motion';
import { fitShot, surveyShot, type Shapes, type ShotFaultKind } from './index';

const HASH = 'a'.repeat(64);

/** A ball of 100 mm with a small cube beside it, before a camera. */
function scene(over: { size?: number } = {}) {
  const { size = 100 } = over;
  const document: ProjectDocument = structuredClone(newDocument('Survey'));
  document.set.floor.kind = 'none';
  document.nodes['g'] = newNode({ id: 'g', name: 'Group' });
  for (const [index, id] of ['ball', 'cube'].entries())
    document.nodes[id] = newNode({
      id,
      name: id,
      parent: 'g',
      kind: 'part',
      mesh: { asset: HASH, index },
      position: [index * size, 0, 0],
    });
  const ball: number[] = [];
  for (let k = 0; k <= 60; k++)
    for (let j = 0; j < 120; j++) {
      const [a, b] = [(k / 60) * Math.PI, (j / 120) * 2 * Math.PI];
      ball.push(
        (size / 2) * Math.sin(a) * Math.cos(b),
        (size / 2) * Math.cos(a),
        (size / 2) * Math.sin(a) * Math.sin(b),
      );
    }
  const h = size / 2;
  const shapes: Shapes = new Map([
    [
      meshKey({ asset: HASH, index: 0 }),
      { bounds: { low: [-h, -h, -h], high: [h, h, h] }, outline: outlineOf(new Float32Array(ball)) },
    ],
    [
      meshKey({ asset: HASH, index: 1 }),
      { bounds: { low: [-h / 10, -h / 10, -h / 10], high: [h / 10, h / 10, h / 10] }, outline: new Float32Array(0) },
    ],
  ]);
  document.cameras = {
    eye: newCamera({
      id: 'eye',
      position: [0, 0, size * 10],
      target: [0, 0, 0],
      focalLength: 50,
      sensorWidth: 36,
      focusDistance: size * 10,
    }),
  };
  const shot = Object.values(document.shots)[0]!;
  Object.assign(shot, { length: 48, camera: 'eye' });
  return { document, shot, shapes, camera: document.cameras['eye']! };
}
const put = (shot: Shot, move: Move, over: object = {}) =>
  void (shot.moves[move.id] = { ...move, pace: 'linear', ...over } as Move);
const kinds = (...of: Parameters<typeof surveyShot>): ShotFaultKind[] =>
  surveyShot(...of)!.faults.map(({ kind }) => kind);

describe('what happens within a shot', () => {
  it.each([2, 100, 20_000])('is nothing while a product of %d mm stays in its picture', (size) => {
    const { document, shot, shapes } = scene({ size });
    put(shot, newMove('turntable', 'nodes/g', 1, 48));
    const found = surveyShot(document, shot, shapes, 16 / 9)!;
    expect(found.faults).toEqual([]);
    // The ball is a tenth of the distance away from its middle at most: 1.1 / 10 of it, by half the picture's height.
    expect(found.reach).toBeGreaterThan(0.05 / (0.36 / (16 / 9)) - 0.02);
    expect(found.reach).toBeLessThan(1);
  });

  it('is that the product leaves the picture, on just the frames on which its hull does', () => {
    const { document, shot, shapes } = scene();
    put(shot, newMove('travel', 'nodes/g', 1, 48), { from: [0, 0, 0], to: [0, 470, 0] });
    const [fault] = surveyShot(document, shot, shapes, 1)!.faults;
    // Half the picture is 360 mm there: the ball of 50 mm begins to leave at 310 of 470 mm, nearer parts of it a little before.
    const last = 1 + (47 * 310) / 470;
    expect(fault).toMatchObject({ kind: 'leaves', worst: 48 });
    expect(Math.abs(fault!.spans[0]![0] - last)).toBeLessThan(1.6);
    expect(fault!.spans).toEqual([[expect.any(Number), 48]]);
    expect(fault!.amount).toBeCloseTo((470 + 50) / 360, 1);
  });

  it('is none of a close-up that never shows all of it, unless parts were chosen', () => {
    const { document, shot, shapes, camera } = scene();
    camera.focalLength = 400;
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
    shot.framed = ['g'];
    expect(kinds(document, shot, shapes, 1)).toEqual(['leaves']);
    shot.framed = ['gone'];
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
    camera.target = [100, 0, 0];
    shot.framed = ['cube'];
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
  });

  it('is that what was chosen is not sharp, where the focus has gone elsewhere', () => {
    const { document, shot, shapes, camera } = scene();
    Object.assign(camera, { fStop: 11, focalLength: 85 });
    shot.framed = ['ball'];
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
    shot.tracks['cameras/eye/focusDistance'] = [
      { frame: 1, value: 1000, pace: 'linear' },
      { frame: 48, value: 1500, pace: 'linear' },
    ];
    const [fault] = surveyShot(document, shot, shapes, 1)!.faults;
    expect(fault!.kind).toBe('blurred');
    expect(fault!.spans[0]![0]).toBeGreaterThan(3);
    expect(fault!.spans[0]![1]).toBe(48);
  });

  it('is that the floor or the sweep ends in the picture', () => {
    const { document, shot, shapes, camera } = scene();
    Object.assign(document.set.floor, { kind: 'sweep', size: 4000, depth: 600 });
    camera.position = [0, 300, 1000];
    expect(kinds(document, shot, shapes, 16 / 9)).toEqual([]);
    put(shot, newMove('orbit', 'cameras/eye', 1, 48), { angle: Math.PI });
    expect(kinds(document, shot, shapes, 16 / 9)).toEqual(['edge']);
    Object.assign(document.set.floor, { kind: 'floor', size: 100_000 });
    expect(kinds(document, shot, shapes, 16 / 9)).toEqual([]);
    document.set.floor.size = 900;
    expect(kinds(document, shot, shapes, 16 / 9)).toEqual(['edge']);
  });

  it('is that the camera is inside a part, something jumps across, or a lamp comes in', () => {
    const { document, shot, shapes, camera } = scene();
    put(shot, newMove('dolly', 'cameras/eye', 1, 48), { forward: 990 });
    const [, inside] = surveyShot(document, shot, shapes, 1)!.faults;
    expect(inside).toMatchObject({ kind: 'inside', thing: 'ball' });
    shot.moves = {};
    camera.shutterAngle = 0;
    put(shot, newMove('travel', 'nodes/g', 1, 6), { from: [-200, 0, 0], to: [200, 0, 0] });
    expect(kinds(document, shot, shapes, 1)).toEqual(['fast']);
    camera.shutterAngle = Math.PI;
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
    document.lights = { lamp: newLight('bulb', { id: 'lamp', position: [0, 0, -300], visibleToCamera: true }) };
    expect(kinds(document, shot, shapes, 1)).toEqual([]);
    put(shot, newMove('travel', 'lights/lamp', 1, 48), { from: [0, 0, 0], to: [2000, 0, 0], carryTarget: false });
    expect(surveyShot(document, shot, shapes, 1)!.faults).toMatchObject([{ kind: 'lamp', thing: 'lamp' }]);
  });

  it('is nothing where there is no camera or nothing to see', () => {
    const { document, shot, shapes } = scene();
    expect(surveyShot(document, { ...shot, camera: null }, shapes, 1)).toBeNull();
    expect(surveyShot(document, shot, new Map(), 1)).toBeNull();
  });
});

describe('a shot that is given room', () => {
  const cases: [string, (shot: Shot) => void][] = [
    ['at rest', () => undefined],
    ['on an orbit', (shot) => put(shot, newMove('orbit', 'cameras/eye', 1, 48), { angle: 2, rise: 50 })],
    ['with keys', (shot) => void (shot.tracks['cameras/eye/position'] = [[0, 0, 300], [100, 200, 250]].map((value, k) => ({ frame: 1 + 47 * k, value: value as Vector3, pace: 'ease' as const })))],
    ['with a lens that is pushed', (shot) => put(shot, newMove('lensPush', 'cameras/eye', 1, 48), { from: 50, to: 250 })],
    ['on a route', (shot) => put(shot, newMove('route', 'cameras/eye', 1, 48), { stations: [[0, 0, 300], [200, 40, 150]].map((position) => ({ position, target: [0, 0, 0], roll: 0, focalLength: 60, focusDistance: 300 })) })],
  ]; // prettier-ignore
  for (const [name, change] of cases)
    it.each(['distance', 'lens'] as const)(
      `${name} by %s shows all of it with little to spare, and leaves other shots alone`,
      (by) => {
        const { document, shot, shapes, camera } = scene();
        camera.position = [0, 0, 220];
        change(shot);
        const before = structuredClone(document.cameras);
        expect(surveyShot(document, shot, shapes, 16 / 9)!.reach).toBeGreaterThan(1);
        const made = fitShot(document, shot, shapes, 16 / 9, by)!;
        const after = { ...document, shots: { ...document.shots, [shot.id]: made } };
        const { reach } = surveyShot(after, made, shapes, 16 / 9)!;
        expect(reach).toBeLessThanOrEqual(1 / 1.04 + 1e-3);
        expect(reach).toBeGreaterThan(0.9);
        expect(document.cameras).toEqual(before);
        expect(() => openDocument(after)).not.toThrow();
      },
    );

  it('is left as it is where it has enough', () => {
    const { document, shot, shapes } = scene();
    expect(fitShot(document, shot, shapes, 16 / 9, 'lens')).toBe(shot);
  });
});
