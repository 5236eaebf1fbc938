import { describe, expect, it } from 'vitest';
import { newMove } from '../motion';
import { newCamera, newDocument, newLight, newNode } from './defaults';
import { tellDifferences } from './tellDifferences';

const before = newDocument('Before');
before.nodes = { knob: newNode({ id: 'knob', name: 'Knob', kind: 'part' }) };
before.lights = { key: newLight('panel', { id: 'key', name: 'Key', power: 1400 }) };
before.cameras = { eye: newCamera({ id: 'eye', name: 'Eye', roll: 0 }) };
const shot = Object.keys(before.shots)[0]!;
const changed = (change: (document: typeof before) => void) => {
  const after = structuredClone(before);
  change(after);
  return tellDifferences(before, after, shot);
};

describe('differences of two states of a project', () => {
  it('are none between what is alike, and none in names and order', () => {
    expect(changed(() => undefined)).toEqual([]);
    expect(changed((each) => void ((each.lights['key']!.order = 9), (each.look.exposure = 2)))).toEqual([]);
  });

  it('are told by the name of the thing, in the units in which it is shown', () => {
    expect(changed((each) => void (each.lights['key']!.power = 1800))).toEqual([{ thing: 'Key', what: 'power', before: '1,400', after: '1,800' }]); // prettier-ignore
    expect(changed((each) => void (each.cameras['eye']!.roll = Math.PI / 2))).toMatchObject([{ thing: 'Eye', what: 'roll', before: '0°', after: '90°' }]); // prettier-ignore
    expect(changed((each) => void (each.set.floor.kind = 'none'))).toMatchObject([{ thing: 'Set', what: 'floor, kind', after: 'none' }]); // prettier-ignore
    expect(changed((each) => void (each.nodes['knob']!.position = [1, 2.5, 3]))).toMatchObject([{ thing: 'Knob', what: 'position', after: '1, 2.5, 3 mm' }]); // prettier-ignore
  });

  it('are things that came and went', () => {
    const found = changed((each) => {
      delete each.nodes['knob'];
      each.lights['rim'] = newLight('bulb', { id: 'rim', name: 'Rim' });
    });
    expect(found).toEqual([
      { thing: 'Knob', what: '', before: 'there', after: null },
      { thing: 'Rim', what: '', before: null, after: 'added' },
    ]);
  });

  it('are motion of the shot alone: keys, moves, values of its own, its length', () => {
    const move = { ...newMove('turntable', 'nodes/knob', 1, 24), id: 'turn', name: 'Turn' };
    const found = changed((each) => {
      const own = each.shots[shot]!;
      own.tracks['lights/key/power'] = [{ frame: 1, value: 1, pace: 'linear' }];
      own.moves = { turn: move as never };
      own.changes['cameras/eye/focalLength'] = 85;
      own.length = 120;
    });
    expect(found).toEqual([
      { thing: before.shots[shot]!.name, what: 'length', before: '96 frames', after: '120 frames' },
      { thing: 'Eye', what: 'focal length in this shot', before: null, after: '85 mm' },
      { thing: 'Key', what: 'keys of power', before: null, after: '1 key' },
      { thing: 'Turn', what: '', before: null, after: 'added' },
    ]);
  });

  it('have an end', () => {
    const found = changed((each) => {
      for (let k = 0; k < 2000; k++) each.nodes[`n${k}`] = newNode({ id: `n${k}`, name: `N${k}` });
    });
    expect(found).toHaveLength(500);
  });
});
