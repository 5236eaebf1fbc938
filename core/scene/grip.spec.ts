import { carried, flown, gripPlace, placedAimed, turned, worldTransforms, type SceneState, type Grip } from './index';
import { newCamera, newDocument, newNode, newShot, writeProperty, type ProjectDocument } from '../document';
import { newMove, evaluateProperties } from '../motion';
import { describe, expect, it } from 'vitest';
import { quaternionAbout, rotateVector, subtract, transformPoint } from '../geometry';

/** A knob in a tilted, enlarged group; both turn about points of their own. */
function studio(): ProjectDocument {
  const document = structuredClone(newDocument('grips'));
  document.nodes = {
    body: newNode({
      id: 'body',
      position: [10, 20, 30],
      turn: [0.4, -1.2, 0.7],
      scale: [2, 2, 2],
      pivot: [5, 0, 0],
    }),
    knob: newNode({
      id: 'knob',
      parent: 'body',
      kind: 'part',
      position: [3, -4, 5],
      turn: [0.1, 7, -0.3],
      pivot: [1, 2, 3],
    }),
  };
  document.cameras = { eye: newCamera({ id: 'eye', position: [0, 100, 500], target: [0, 50, 0] }) };
  return document;
}

const withValues = (state: SceneState, values: Record<string, [number, number, number]>): SceneState => {
  const copy = { ...structuredClone({ ...state, spins: [] }), spins: state.spins } as SceneState;
  for (const [path, value] of Object.entries(values)) writeProperty(copy, path, value);
  return copy;
};
const knob: Grip = { collection: 'nodes', id: 'knob' };
const near = (a: readonly number[], b: readonly number[]) => a.forEach((v, k) => expect(v).toBeCloseTo(b[k]!, 6));

describe('a handle in the picture', () => {
  it('carries a part by just the distance in the world, inside a turned and scaled group', () => {
    const state = evaluateProperties(studio(), null, 1);
    const before = gripPlace(state, knob)!;
    const after = gripPlace(withValues(state, carried(state, knob, [7, -8, 9])), knob)!;
    near(subtract(after, before), [7, -8, 9]);
  });

  it('turns a part in the world about its turning point, which stays', () => {
    const state = evaluateProperties(studio(), null, 1);
    const q = quaternionAbout([0.3, 1, -0.2], 0.8);
    const later = withValues(state, turned(state, knob, q));
    near(gripPlace(later, knob)!, gripPlace(state, knob)!);
    const corner = (each: SceneState) =>
      subtract(transformPoint(worldTransforms(each).get('knob')!, [11, -3, 4]), gripPlace(each, knob)!);
    near(corner(later), rotateVector(corner(state), q));
  });

  it('turns a part that a turntable carries round at that moment', () => {
    const document = studio();
    const move = { ...newMove('turntable', 'nodes/knob', 1, 40), axis: [0, 0, 1] as [number, number, number] };
    const state = evaluateProperties(document, newShot({ moves: { [move.id]: move } }), 11);
    const q = quaternionAbout([1, 0, 0], -0.5);
    const later = withValues(state, turned(state, knob, q));
    const corner = (each: SceneState) =>
      subtract(transformPoint(worldTransforms(each).get('knob')!, [11, -3, 4]), gripPlace(each, knob)!);
    near(corner(later), rotateVector(corner(state), q));
  });

  it('keeps whole turns that were typed', () => {
    const state = evaluateProperties(studio(), null, 1);
    const { 'nodes/knob/turn': turn } = turned(state, knob, quaternionAbout([0, 1, 0], 0.001));
    expect(Math.abs(turn![1] - 7)).toBeLessThan(0.5);
  });

  it('turns a camera by aiming it elsewhere from where it stands', () => {
    const state = evaluateProperties(studio(), null, 1);
    const eye: Grip = { collection: 'cameras', id: 'eye' };
    const values = turned(state, eye, quaternionAbout([0, 1, 0], Math.PI));
    near(values['cameras/eye/target']!, [0, 50, 1000]);
    expect(Object.keys(values)).toEqual(['cameras/eye/target']);
  });

  it('of something that is gone changes nothing', () => {
    const state = evaluateProperties(studio(), null, 1);
    const gone: Grip = { collection: 'lights', id: 'gone' };
    expect([gripPlace(state, gone), carried(state, gone, [1, 0, 0]), turned(state, gone, [0, 0, 0, 1])]).toEqual([
      null,
      {},
      {},
    ]);
  });
});

describe('flying a camera', () => {
  it('moves where it stands and what it is aimed at by so much in the world, whatever it hangs on', () => {
    const document = studio();
    document.cameras['eye'] = { ...document.cameras['eye']!, parent: 'body' };
    const state = evaluateProperties(document, null, 1);
    const before = placedAimed(state).cameras['eye']!;
    const after = placedAimed(withValues(state, flown(state, 'eye', { position: [10, -20, 30], target: [1, 2, 3] })))
      .cameras['eye']!;
    near(subtract(after.position, before.position), [10, -20, 30]);
    near(subtract(after.target, before.target), [1, 2, 3]);
  });

  it('of a camera that is gone changes nothing', () => {
    const state = evaluateProperties(studio(), null, 1);
    expect(flown(state, 'other', { position: [1, 1, 1], target: [1, 1, 1] })).toEqual({});
  });
});
