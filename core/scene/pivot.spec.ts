import { axisInParent, separateCopies, setPivot, setPivotInWorld, worldTransforms } from './index';
import { evaluate, evaluateProperties } from '../motion';
import { beforeEach, describe, expect, it } from 'vitest';
import { checkDocument, newCopies, newDocument, newNode, newShot, type ProjectDocument } from '../document';
import { transformPoint, type Vector } from '../geometry';
let document: ProjectDocument;
const close = (v: Vector) => v.map((each) => expect.closeTo(each, 5));
const place = (of: Vector, frame: number | null = null) => {
  const shot = frame === null ? null : document.shots['s']!;
  return transformPoint(worldTransforms(evaluateProperties(document, shot, frame ?? 1)).get('knob')!, of);
};

const standing = () => worldTransforms(evaluateProperties(document, null, 1)).get('knob')!;

beforeEach(() => {
  document = newDocument('Pivots');
  document.nodes['body'] = newNode({ id: 'body', position: [100, 0, 0], turn: [0, 0.5, 0] });
  document.nodes['knob'] = newNode({
    id: 'knob',
    parent: 'body',
    position: [10, 20, 30],
    turn: [0.4, 1, 0.2],
    scale: [2, 1, 3],
    pivot: [1, 2, 3],
  });
  document.shots['s'] = newShot({ id: 's' });
});

describe('another turning point', () => {
  it('leaves a part where it is, also where it is turned and scaled', () => {
    const before = [place([0, 0, 0]), place([5, -3, 8])];
    setPivot(document, 'knob', [-4, 9, 2], [0, 0, 7]);
    expect([place([0, 0, 0]), place([5, -3, 8])]).toEqual(before.map(close));
    expect(document.nodes['knob']!.pivot).toEqual([-4, 9, 2]);
    expect(document.nodes['knob']!.axis).toEqual([0, 0, 1]);
  });

  it('leaves the places of keys and changes of shots where they are', () => {
    const shot = document.shots['s']!;
    shot.tracks['nodes/knob/position'] = [
      { frame: 1, value: [0, 0, 0], pace: 'linear' },
      { frame: 11, value: [50, 0, 0], pace: 'linear' },
    ];
    const before = [1, 4, 11].map((frame) => place([1, 1, 1], frame));
    setPivot(document, 'knob', [30, 0, 0]);
    expect([1, 4, 11].map((frame) => place([1, 1, 1], frame))).toEqual(before.map(close));
  });

  it('in the world stands still while the part turns about it', () => {
    setPivotInWorld(document, 'knob', standing(), [120, 33, 4]);
    const inverse = document.nodes['knob']!.pivot;
    expect(place(inverse)).toEqual(close([120, 33, 4]));
    document.nodes['knob']!.turn = [2, -1, 0.7];
    expect(place(inverse)).toEqual(close([120, 33, 4]));
  });

  it('and an axis in the world make a turntable that turns about just that line', () => {
    document.nodes['knob']!.scale = [1, 1, 1];
    const axis: Vector = [0, Math.SQRT1_2, Math.SQRT1_2];
    setPivotInWorld(document, 'knob', standing(), [120, 33, 4], axis);
    const knob = document.nodes['knob']!;
    document.shots['s']!.moves['m'] = {
      id: 'm', name: 'Turn', kind: 'turntable', target: 'nodes/knob', start: 1, length: 24, repeat: 1, mirrored: false,
      pace: 'linear', axis: axisInParent(knob), turns: 1, direction: 1, startAngle: 0,
      muted: false, weight: 1, perCopy: 0, center: null,
    }; // prettier-ignore
    const onAxis: Vector = [0, 1, 2].map((k) => knob.pivot[k]! + 25 * knob.axis[k]!) as unknown as Vector;
    const still = place(onAxis, 1);
    for (const frame of [5, 9, 17]) {
      expect(place(onAxis, frame)).toEqual(close(still));
      expect(place([0, 0, 0], frame)).not.toEqual(close(place([0, 0, 0], 1)));
    }
    expect(still.map((v, k) => v - [120, 33, 4][k]!)).toEqual(close([0, 25 * Math.SQRT1_2, 25 * Math.SQRT1_2]));
  });
});

describe('copies in a frame', () => {
  const instances = () => evaluate(document, null, 1).parts.map(({ instance, transform }) => [instance, [transform[3], transform[7], transform[11]]]); // prettier-ignore
  const mesh = { asset: 'a'.repeat(64), index: 0 };

  it('show one mesh at many places, told apart by their instance', () => {
    document.nodes['knob'] = newNode({ id: 'knob', mesh, position: [1, 0, 0], copies: lines(3, [10, 0, 0]) });
    expect(instances()).toEqual([
      ['knob', [1, 0, 0]],
      ['knob/1', [11, 0, 0]],
      ['knob/2', [21, 0, 0]],
    ]);
  });

  it('of a group carry all parts of it, and copies in copies multiply', () => {
    document.nodes['body'] = newNode({ id: 'body', copies: lines(2, [0, 100, 0]) });
    document.nodes['knob'] = newNode({ id: 'knob', parent: 'body', mesh, copies: lines(3, [10, 0, 0]) });
    expect(instances().map(([, at]) => at)).toEqual([
      [0, 0, 0], [10, 0, 0], [20, 0, 0], [0, 100, 0], [10, 100, 0], [20, 100, 0],
    ]); // prettier-ignore
    expect(new Set(instances().map(([instance]) => instance)).size).toBe(6);
  });

  it('are never so many that they fill the memory, and a grid of too many is refused', () => {
    const grid = {
      ...lines(1, [1, 1, 1]),
      kind: 'grid' as const,
      counts: [9999, 9999, 9999] as [number, number, number],
    };
    document.nodes['body'] = newNode({ id: 'body', copies: grid });
    document.nodes['knob'] = newNode({ id: 'knob', parent: 'body', mesh, copies: lines(10_000, [1, 0, 0]) });
    expect(instances()).toHaveLength(50_000);
    expect(() => checkDocument(structuredClone(document))).toThrow(/counts": A grid holds at most 10000 copies/);
  });

  it('are hidden with the node they are of', () => {
    document.nodes['knob'] = newNode({ id: 'knob', mesh, visible: false, copies: lines(3, [10, 0, 0]) });
    expect(instances()).toEqual([]);
  });

  it('stay in their order when the first turns: each turns about its own point', () => {
    document.nodes['knob'] = newNode({ id: 'knob', mesh, pivot: [5, 0, 0], turn: [0, Math.PI, 0], copies: lines(2, [10, 0, 0]) }); // prettier-ignore
    const [first, second] = evaluate(document, null, 1).parts;
    expect(transformPoint(first!.transform, [5, 0, 0])).toEqual(close([5, 0, 0]));
    expect(transformPoint(second!.transform, [5, 0, 0])).toEqual(close([15, 0, 0]));
  });

  it('become parts of their own that stand where they stood', () => {
    document.nodes['body'] = newNode({ id: 'body', position: [3, 4, 5], turn: [0, 1, 0] });
    const copies = { ...lines(4, [10, 0, 0]), kind: 'ring' as const, radius: 30, angle: 2 * Math.PI, facing: true };
    document.nodes['knob'] = newNode({
      id: 'knob',
      parent: 'body',
      pivot: [1, 2, 3],
      turn: [0.3, 0, 0],
      copies: { ...copies, varyTurn: [0.2, 0.5, 0.1], varyScale: 0.3, varyOffset: [1, 2, 3] },
    });
    document.nodes['cap'] = newNode({ id: 'cap', parent: 'knob', mesh, position: [0, 7, 0] });
    const places = () => evaluate(document, null, 1).parts.map(({ transform }) => [...transform]);
    const before = places();
    expect(before).toHaveLength(4);
    expect(separateCopies(document, 'knob')).toHaveLength(4);
    expect(document.nodes['knob']!.copies).toBeNull();
    const after = places();
    expect(after).toHaveLength(4);
    for (const place of before) expect(after).toContainEqual(close(place as unknown as Vector));
  });
});

function lines(count: number, spacing: [number, number, number]) {
  return newCopies({ count, counts: [1, 1, 1], spacing, radius: 0, angle: 0, facing: false });
}
