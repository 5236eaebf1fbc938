import { attachNodes, duplicateNodes, groupNodes, separateCopies, setPivot, unwound, worldTransforms } from './index';
import { checkDocument, newCopies, newDocument, newNode, newShot, type Move, type ProjectDocument } from '../document';
import { newMove, evaluate, evaluateProperties } from '../motion';
import { beforeEach, describe, expect, it } from 'vitest';
import { IDENTITY, transformPoint } from '../geometry';
let document: ProjectDocument;
const FRAMES = [1, 4, 8, 12, 17, 24];
const at = (frame: number, point: [number, number, number] = [1, 2, 3]) =>
  transformPoint(worldTransforms(evaluateProperties(document, document.shots['shot']!, frame)).get('lid')!, point);
const way = () => FRAMES.map((frame) => at(frame));
const expectWay = (before: (readonly number[])[]) =>
  way().forEach((point, k) => point.forEach((v, axis) => expect(v).toBeCloseTo(before[k]![axis]!, 3)));
const move = (of: Move) => (document.shots['shot']!.moves[of.id] = of);

beforeEach(() => {
  document = structuredClone(newDocument('Carried'));
  document.shots = { shot: newShot({ id: 'shot', length: 24 }) };
  const arm = { position: [40, 5, 0], turn: [0.6, 0.2, 0], pivot: [3, 0, 1], scale: [2, 2, 2] };
  document.nodes = {
    arm: newNode({ id: 'arm', name: 'Arm', kind: 'group', ...(arm as object) }),
    lid: newNode({ id: 'lid', name: 'Lid', kind: 'group', position: [0, 10, 4], turn: [0.1, 0, 0], pivot: [5, 0, 2] }),
  };
});

describe('the motion of a node that is hung elsewhere', () => {
  it('by keys of its place, size and one of its angles stays what it is in the world', () => {
    document.nodes['arm']!.turn = [0, 0, 0];
    const { tracks } = document.shots['shot']!;
    tracks['nodes/lid/position'] = [
      { frame: 1, value: [0, 10, 4], pace: 'linear' },
      { frame: 12, value: [9, 3, -4], pace: 'linear' },
    ];
    tracks['nodes/lid/scale'] = [
      { frame: 4, value: [1, 1, 1], pace: 'linear' },
      { frame: 24, value: [3, 2, 1], pace: 'linear' },
    ];
    tracks['nodes/lid/turn'] = [
      { frame: 1, value: [0, 0, 0], pace: 'linear' },
      { frame: 24, value: [0, 4 * Math.PI, 0], pace: 'linear' },
    ];
    const before = way();
    attachNodes(document, ['lid'], 'arm');
    expectWay(before);
    attachNodes(document, ['lid'], null);
    expectWay(before);
  });

  it('under a turned group has its keyed poses turned with it', () => {
    const { changes, tracks } = document.shots['shot']!;
    tracks['nodes/lid/turn'] = [
      { frame: 1, value: [0, 0.2, 0], pace: 'held' },
      { frame: 12, value: [0.9, -0.4, 1], pace: 'held' },
    ];
    changes['nodes/lid/position'] = [1, 1, 60];
    const before = way();
    attachNodes(document, ['lid'], 'arm');
    expectWay(before);
  });

  it.each([
    { ...newMove('turntable', 'nodes/lid', 1, 24), axis: [0, 0.6, 0.8] },
    { ...newMove('travel', 'nodes/lid', 3, 20), from: [0, 0, 0], to: [30, -5, 8] },
    { ...newMove('orbit', 'nodes/lid', 1, 24), axis: [1, 0, 0], angle: 2, center: [0, 0, 50] },
    { ...newMove('ramp', 'nodes/lid/position', 2, 20), from: [0, 0, 0], to: [8, 8, 8] },
  ] as Move[])('by a move stays what it is in the world: $kind', (each) => {
    move(each);
    const before = way();
    attachNodes(document, ['lid'], 'arm');
    expectWay(before);
    const group = groupNodes(document, ['lid'])!;
    document.nodes[group]!.position = [1, 2, 3];
    const moved = way();
    attachNodes(document, ['lid'], null);
    expectWay(moved);
  });

  it('is copied with the node, for all below it too', () => {
    const { changes, tracks } = document.shots['shot']!;
    document.nodes['lid']!.parent = 'arm';
    tracks['nodes/lid/position'] = [
      { frame: 1, value: [0, 10, 4], pace: 'linear' },
      { frame: 12, value: [9, 3, -4], pace: 'linear' },
    ];
    changes['nodes/arm/visible'] = true;
    move({ ...newMove('turntable', 'nodes/arm', 1, 24), axis: [0, 1, 0] } as Move);
    const [copy] = duplicateNodes(document, ['arm']) as [string];
    const lid = Object.values(document.nodes).find(({ parent }) => parent === copy)!.id;
    for (const frame of FRAMES) {
      const world = worldTransforms(evaluateProperties(document, document.shots['shot']!, frame));
      expect(world.get(lid)).toEqual(world.get('lid'));
      expect(world.get(lid)).not.toEqual(IDENTITY);
    }
    expect(changes[`nodes/${copy}/visible`]).toBe(true);
    // What is done to the copy is not done to the node.
    (tracks[`nodes/${lid}/position`]![1]!.value as number[])[0] = 77;
    expect(tracks['nodes/lid/position']![1]!.value).toEqual([9, 3, -4]);
    checkDocument(document);
  });

  it.each([
    { ...newMove('travel', 'nodes/lid', 1, 24), from: [0, 0, 0], to: [0, 12, 5] },
    { ...newMove('turntable', 'nodes/lid', 1, 24), axis: [0.6, 0, 0.8] },
    { ...newMove('ramp', 'nodes/lid/position', 2, 20), from: [0, 0, 0], to: [8, 8, 8] },
  ] as Move[])('goes on in each of the copies that become nodes of their own: $kind', (each) => {
    const lid = document.nodes['lid']!;
    lid.copies = newCopies({ kind: 'ring', count: 3, radius: 50, facing: true });
    lid.mesh = { piece: { kind: 'sphere', radius: 1 } };
    document.shots['shot']!.tracks['nodes/lid/position'] = [
      { frame: 1, value: [0, 10, 4], pace: 'linear' },
      { frame: 12, value: [9, 3, -4], pace: 'linear' },
    ];
    document.shots['shot']!.tracks['nodes/lid/turn'] = [
      { frame: 1, value: [0.1, 0, 0], pace: 'held' },
      { frame: 12, value: [0.9, -0.4, 1], pace: 'held' },
    ];
    move(each);
    const places = (frame: number) =>
      evaluate(document, document.shots['shot']!, frame)
        .parts.map(({ transform }) =>
          transformPoint(transform, [7, 1, 3])
            .map((v) => (v.toFixed(3) === '-0.000' ? '0.000' : v.toFixed(3)))
            .join(),
        ) // prettier-ignore
        .sort();
    const before = FRAMES.map(places);
    separateCopies(document, 'lid');
    expect(FRAMES.map(places)).toEqual(before);
    expect(before[0]).not.toEqual(before.at(-1));
  });

  it('by a fade of its place stays what it is when its turning point changes', () => {
    document.nodes['lid']!.turn = [0.4, 0.3, 0];
    move({ ...newMove('ramp', 'nodes/lid/position', 2, 20), from: [0, 0, 0], to: [8, 8, 8] } as Move);
    const before = way();
    setPivot(document, 'lid', [9, -4, 1]);
    expectWay(before);
  });

  it('has angles that go on without leaps', () => {
    expect(unwound([])).toEqual([]);
    const turns = unwound([[0, 3, 0], [0, -3, 0], [0, -0.1, 7]]); // prettier-ignore
    for (let k = 1; k < turns.length; k++)
      turns[k]!.forEach((v, axis) => expect(Math.abs(v - turns[k - 1]![axis]!)).toBeLessThanOrEqual(Math.PI));
  });
});
