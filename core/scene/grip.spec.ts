import {
  aimed,
  aimPlace,
  carried,
  flown,
  gripAxes,
  gripPlace,
  placedAimed,
  sized,
  turned,
  worldTransforms,
  type SceneState,
  type Grip,
} from './index';
import {
  newCamera,
  newDocument,
  newLight,
  newNode,
  newShot,
  writeProperty,
  type ProjectDocument,
  type Value,
} from '../document';
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

const withValues = (state: SceneState, values: Record<string, Value>): SceneState => {
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

describe('the axes of handles', () => {
  const state = evaluateProperties(studio(), null, 1);

  it('are those of the world, of what the thing hangs under, or its own', () => {
    near(gripAxes(state, knob, 'world'), [0, 0, 0, 1]);
    const x = (whose: 'own' | 'parent') => rotateVector([1, 0, 0], gripAxes(state, knob, whose));
    const along = (id: string) => {
      const world = worldTransforms(state).get(id)!;
      const way = subtract(transformPoint(world, [1, 0, 0]), transformPoint(world, [0, 0, 0]));
      return way.map((v) => v / Math.hypot(...way));
    };
    near(x('parent'), along('body'));
    near(x('own'), along('knob'));
  });

  it('of a camera have z where it looks', () => {
    near(
      rotateVector([0, 0, 1], gripAxes(state, { collection: 'cameras', id: 'eye' }, 'own')),
      [0, -50, -500].map((v) => v / Math.hypot(50, 500)),
    );
  });
});

describe('aiming', () => {
  it('moves only the point that is aimed at, by so much in the world, whatever the thing hangs on', () => {
    const document = studio();
    document.cameras['eye'] = { ...document.cameras['eye']!, parent: 'body' };
    const state = evaluateProperties(document, null, 1);
    const eye: Grip = { collection: 'cameras', id: 'eye' };
    const later = withValues(state, aimed(state, eye, [10, -20, 30]));
    near(subtract(aimPlace(later, eye)!, aimPlace(state, eye)!), [10, -20, 30]);
    near(gripPlace(later, eye)!, gripPlace(state, eye)!);
    expect([aimPlace(state, knob), aimed(state, knob, [1, 1, 1])]).toEqual([null, {}]);
  });
});

describe('sizing by handles', () => {
  const document = studio();
  for (const kind of ['panel', 'tube', 'bulb', 'sun'] as const)
    document.lights[kind] = newLight(kind, { id: kind, width: 300, height: 200, radius: 10 });
  const state = evaluateProperties(document, null, 1);
  const light = (id: string): Grip => ({ collection: 'lights', id });

  it('scales a node along its own axes', () => {
    expect(sized(state, { collection: 'nodes', id: 'body' }, [1, 0.5, 3])).toEqual({ 'nodes/body/scale': [2, 1, 6] });
  });

  it('gives every kind of lamp the dimensions it has, within what they can be', () => {
    expect(sized(state, light('panel'), [2, 0.5, 1])).toEqual({
      'lights/panel/width': 600,
      'lights/panel/height': 100,
    });
    expect(sized(state, light('tube'), [2, 1, 3])).toEqual({ 'lights/tube/width': 600, 'lights/tube/radius': 30 });
    expect(sized(state, light('bulb'), [1, 1, 0.5])).toEqual({ 'lights/bulb/radius': 5 });
    expect(sized(state, light('bulb'), [1, 1, 1e-9])).toEqual({ 'lights/bulb/radius': 0.1 });
    expect(sized(state, light('sun'), [2, 2, 2])).toEqual({});
  });

  it('leaves cameras and what is gone alone', () => {
    expect(sized(state, { collection: 'cameras', id: 'eye' }, [2, 2, 2])).toEqual({});
    expect(sized(state, light('gone'), [2, 2, 2])).toEqual({});
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
