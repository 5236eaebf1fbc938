import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  newDocument,
  newLight,
  newNode,
  newShot,
  readProperty,
  type Key,
  type ProjectDocument,
  type Shot,
  type Value,
} from '../document';
import { evaluateProperties, newMove, sampleProperty } from './index';

function studio(): ProjectDocument {
  const document = structuredClone(newDocument('samples'));
  document.nodes = { box: newNode({ id: 'box' }), lid: newNode({ id: 'lid', parent: 'box' }) };
  document.lights = { key: newLight('panel', { id: 'key' }) };
  return document;
}

const key = (frame: number, value: Value): Key => ({ frame, value, pace: 'ease' });
const shots: Record<string, Shot> = {
  'keys, a change and fades of one power': newShot({
    length: 40,
    changes: { 'lights/key/power': 7, 'lights/key/on': false },
    tracks: { 'lights/key/power': [key(3, 100), key(20, 300)], 'lights/key/on': [key(1, false), key(12, true)] },
    moves: {
      late: { ...newMove('ramp', 'lights/key/power', 25, 10), id: 'late' },
      later: { ...newMove('ramp', 'lights/key/power', 30, 5), id: 'later' },
    },
  }),
  'turns and places with moves over them': newShot({
    length: 40,
    tracks: {
      'nodes/box/turn': [key(1, [0, 0, 0]), key(40, [1, 2, 3])],
      'nodes/box/position': [key(1, [0, 0, 0]), key(30, [9, 8, 7])],
    },
    moves: {
      travel: { ...newMove('travel', 'nodes/box', 5, 20), id: 'travel' },
      orbit: { ...newMove('orbit', 'lights/key', 1, 40), id: 'orbit' },
      blink: { ...newMove('blink', 'lights/key/power', 10, 20), id: 'blink' },
    },
  }),
};
const PATHS = [
  'lights/key/power',
  'lights/key/on',
  'lights/key/position',
  'lights/key/target',
  'nodes/box/turn',
  'nodes/box/position',
  'nodes/lid/position',
  'nodes/gone/position',
  'set/air/density',
];

describe('a property sampled by itself', () => {
  for (const [name, shot] of Object.entries(shots)) {
    it(`is what the whole document says: ${name}`, () => {
      fc.assert(
        fc.property(fc.constantFrom(...PATHS), fc.double({ min: -5, max: 60, noNaN: true }), (path, frame) => {
          const document = studio();
          expect(sampleProperty(document, shot, path)(frame)).toEqual(
            readProperty(evaluateProperties(document, shot, frame), path),
          );
        }),
      );
    });
  }
});

describe('a choice that is keyed', () => {
  const keys = [key(1, 'surroundings'), key(12, 'transparent'), key(20, 'nonsense')];
  const shot = newShot({ length: 40, tracks: { 'set/behind/kind': keys, 'lights/key/unit': [key(1, 'watt')] } });
  const kindAt = (frame: number) => evaluateProperties(studio(), shot, frame).set.behind.kind;

  it('is held from one key to the next, whatever their pace', () => {
    expect([1, 11.9, 12, 19].map(kindAt)).toEqual(['surroundings', 'surroundings', 'transparent', 'transparent']);
    expect(sampleProperty(studio(), shot, 'set/behind/kind')(13)).toBe('transparent');
  });

  it('takes no name that is none of its own, and keeps what cannot move', () => {
    expect(kindAt(25)).toBe(studio().set.behind.kind);
    expect(evaluateProperties(studio(), shot, 5).lights['key']!.unit).toBe('lumen');
  });
});
