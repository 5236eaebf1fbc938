import { carried, carryAimed, gripPlace, joinParts, placedAimed, removeNodes, turned, ungroupNode } from './index';
import { evaluate, evaluateProperties } from '../motion';
import { beforeEach, describe, expect, it } from 'vitest';
import {
  checkDocument,
  newCamera,
  newDocument,
  newLight,
  newNode,
  type ProjectDocument,
  type Value,
} from '../document';
import { frameAlong, quaternionAbout, rotateVector, subtract, type Vector } from '../geometry';
let document: ProjectDocument;
const close = (v: readonly number[]) => v.map((each) => expect.closeTo(each, 5));
const placed = () => placedAimed(evaluateProperties(document, null, 1));
const lamp = () => placed().lights['lamp']!;
const camera = () => placed().cameras['eye']!;

/** The camera's own upwards in the world. */
function upOf({ position, target, roll }: { position: Vector; target: Vector; roll: number }): number[] {
  const { y, z } = frameAlong(subtract(position, target));
  return [...rotateVector(y, quaternionAbout(z, -roll))];
}

beforeEach(() => {
  document = newDocument('Carried');
  document.nodes['cart'] = newNode({ id: 'cart', position: [100, 0, 50], turn: [0, 0.7, 0], scale: [2, 2, 2] });
  document.nodes['arm'] = newNode({
    id: 'arm',
    parent: 'cart',
    kind: 'helper',
    position: [0, 30, 0],
    turn: [0.5, 0, 0],
  });
  document.lights = { lamp: newLight('spot', { id: 'lamp', position: [10, 200, 30], target: [0, 0, 5] }) };
  document.cameras = { eye: newCamera({ id: 'eye', position: [300, 120, 90], target: [5, 6, 7], roll: 0.3 }) };
  document.shots[Object.keys(document.shots)[0]!]!.camera = 'eye';
});

describe('what a node carries', () => {
  it('stays where it is when it is attached and when it is taken off again', () => {
    const before = [lamp().position, lamp().target, camera().position, camera().target, upOf(camera())];
    const now = () => [lamp().position, lamp().target, camera().position, camera().target, upOf(camera())];
    carryAimed(document, ['lamp', 'eye'], 'arm');
    expect(document.lights['lamp']!.parent).toBe('arm');
    expect(document.lights['lamp']!.position).not.toEqual(before[0]);
    expect(now()).toEqual(before.map((v) => close(v)));
    carryAimed(document, ['lamp', 'eye'], 'cart');
    expect(now()).toEqual(before.map((v) => close(v)));
    carryAimed(document, ['lamp', 'eye'], null);
    expect(document.cameras['eye']!.position).toEqual(close(before[2]!));
    expect(document.cameras['eye']!.roll).toBeCloseTo(0.3, 6);
    expect(checkDocument(structuredClone(document)).lights['lamp']!.parent).toBeNull();
  });

  it('goes along with it, in the frame that is traced too', () => {
    const before = lamp().position;
    carryAimed(document, ['lamp', 'eye'], 'cart');
    document.nodes['cart']!.position = [100, 0, 150];
    expect(lamp().position).toEqual(close([before[0], before[1], before[2] + 100]));
    const state = evaluate(document, Object.values(document.shots)[0]!, 1);
    expect(state.lights[0]!.position).toEqual(close(lamp().position));
    expect(state.camera!.position).toEqual(close(camera().position));
  });

  it('rolls a camera with it', () => {
    document.cameras['eye'] = newCamera({ id: 'eye', parent: 'cart', position: [0, 0, 100], target: [0, 0, 0] });
    document.nodes['cart'] = newNode({ id: 'cart', turn: [0, 0, 0.4] });
    // The cart leans by 0.4 about the way the camera looks, and so does the picture.
    expect(upOf(camera())).toEqual(close([-Math.sin(0.4), Math.cos(0.4), 0]));
  });

  it('is moved and turned by its handles as it is seen in the world', () => {
    carryAimed(document, ['lamp'], 'arm');
    const before = lamp();
    const state = evaluateProperties(document, null, 1);
    const grip = { collection: 'lights', id: 'lamp' } as const;
    expect(gripPlace(state, grip)).toEqual(close(before.position));
    const apply = (values: Record<string, Value>) => {
      for (const [path, value] of Object.entries(values)) {
        const key = path.split('/')[2] as 'position' | 'target';
        document.lights['lamp']![key] = [...(value as Vector)];
      }
    };
    apply(carried(state, grip, [0, 0, 40]));
    expect(lamp().position).toEqual(close([before.position[0], before.position[1], before.position[2] + 40]));
    const aim = subtract(lamp().target, lamp().position);
    const by = quaternionAbout([0, 1, 0], 0.3);
    apply(turned(evaluateProperties(document, null, 1), grip, by));
    expect(subtract(lamp().target, lamp().position)).toEqual(close(rotateVector(aim, by)));
  });

  it('stays where it is when its carrier is deleted, ungrouped or joined to another part', () => {
    const mesh = { asset: 'a'.repeat(64), index: 0 };
    document.nodes['one'] = newNode({ id: 'one', kind: 'part', mesh, position: [5, 5, 5] });
    document.nodes['two'] = newNode({ id: 'two', kind: 'part', mesh, position: [50, 5, 5], turn: [0, 1, 0] });
    const before = lamp().position;
    carryAimed(document, ['lamp'], 'two');
    expect(joinParts(document, ['one', 'two'])).toBe('one');
    expect([document.lights['lamp']!.parent, ...lamp().position]).toEqual(['one', ...close(before)]);
    carryAimed(document, ['lamp'], 'arm');
    ungroupNode(document, 'arm');
    expect([document.lights['lamp']!.parent, ...lamp().position]).toEqual(['cart', ...close(before)]);
    removeNodes(document, ['cart']);
    expect([document.lights['lamp']!.parent, ...lamp().position]).toEqual([null, ...close(before)]);
    expect(document.nodes['cart']).toBeUndefined();
  });

  it('must be there', () => {
    document.lights['lamp']!.parent = 'nobody';
    expect(() => checkDocument(structuredClone(document))).toThrow(/"Spot" hangs on something that does not exist/);
  });
});
