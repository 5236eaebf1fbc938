import { describe, expect, it } from 'vitest';
import { pictureOfSource } from '../optics';
import {
  checkDocument,
  newAsset,
  newCamera,
  newDocument,
  newFinish,
  newLight,
  newMap,
  newNode,
  newShot,
  type ProjectDocument,
} from '../document';
import { newMove } from '../motion';
import { bundleSchema, liftThings, putThings } from './index';

const mesh = { asset: 'a'.repeat(64), index: 0 };

/** A part in a shifted group, a lamp on the group, a finish with a picture, two shots. */
function studio(): ProjectDocument {
  const document = structuredClone(newDocument('From'));
  document.assets = {
    model: newAsset({ id: 'model', name: 'Model', kind: 'model', hash: 'a'.repeat(64) }),
    grain: newAsset({ id: 'grain', name: 'Grain', kind: 'picture', hash: 'b'.repeat(64) }),
  };
  document.finishes = {
    wood: newFinish({ id: 'wood', name: 'Wood', maps: { baseColor: newMap('baseColor', 'grain') } }),
  };
  document.nodes = {
    group: newNode({ id: 'group', name: 'Group', position: [10, 0, 0] }),
    part: newNode({
      id: 'part',
      name: 'Part',
      kind: 'part',
      parent: 'group',
      position: [1, 0, 0],
      mesh,
      finish: 'wood',
    }),
  };
  document.lights = { lamp: newLight('bulb', { id: 'lamp', name: 'Lamp', parent: 'group', position: [0, 5, 0] }) };
  document.cameras = { eye: newCamera({ id: 'eye', name: 'Eye', focusOn: { node: 'part', point: [0, 0, 0] } }) };
  document.shots = {
    one: newShot({
      id: 'one',
      name: 'One',
      camera: 'eye',
      tracks: {
        'lights/lamp/power': [
          { frame: 5, value: 1, pace: 'ease' },
          { frame: 9, value: 2, pace: 'ease' },
        ],
      },
      moves: { turn: { ...newMove('turntable', 'nodes/part', 1, 10), id: 'turn' } },
    }),
    two: newShot({ id: 'two', name: 'Two', order: 1, camera: 'eye' }),
  };
  return document;
}
const into = (draft: ProjectDocument, over = {}) => ({ shot: Object.keys(draft.shots)[0]!, frame: 1, ...over });

describe('things that are copied', () => {
  it('go into another project with what they are made of, and stand where they stood', () => {
    const bundle = bundleSchema.parse(JSON.parse(JSON.stringify(liftThings(studio(), 'one', [
      { kind: 'node', id: 'part' }, { kind: 'light', id: 'lamp' }, { kind: 'camera', id: 'eye' },
    ])))); // prettier-ignore
    const other = structuredClone(newDocument('To'));
    const made = putThings(other, bundle, into(other));
    expect(made.map(({ kind }) => kind)).toEqual(['node', 'light', 'camera']);
    const [part] = Object.values(other.nodes);
    expect(part).toMatchObject({ name: 'Part', parent: null, position: [11, 0, 0], mesh });
    const finish = other.finishes[part!.finish!]!;
    expect(other.assets[pictureOfSource(finish.maps.baseColor!.source)!]).toMatchObject({ hash: 'b'.repeat(64) });
    expect(
      Object.values(other.assets)
        .map(({ kind }) => kind)
        .sort(),
    ).toEqual(['model', 'picture']);
    expect(Object.values(other.lights).find(({ name }) => name === 'Lamp')).toMatchObject({
      parent: null,
      position: [10, 5, 0],
    });
    expect(Object.values(other.cameras).find(({ name }) => name === 'Eye')).toMatchObject({ focusOn: null });
    expect(checkDocument(other)).toEqual(other);
  });

  it('wear what is there already, and are named apart from what they are copies of', () => {
    const document = studio();
    const bundle = liftThings(document, 'one', [{ kind: 'node', id: 'group' }]);
    putThings(document, bundle, into(document));
    expect(Object.keys(document.finishes)).toEqual(['wood']);
    expect(Object.values(document.nodes).map(({ name }) => name)).toEqual(['Group', 'Part', 'Group 2', 'Part']);
    putThings(document, liftThings(document, 'one', [{ kind: 'finish', id: 'wood' }]), into(document));
    expect(Object.values(document.finishes).map(({ name }) => name)).toEqual(['Wood', 'Wood 2']);
    expect(checkDocument(document)).toEqual(document);
  });

  it('of one name are told apart where they come together', () => {
    const document = studio();
    document.nodes['twin'] = newNode({ id: 'twin', name: 'Group', order: 5 });
    const things = ['group', 'twin'].map((id) => ({ kind: 'node' as const, id }));
    putThings(document, liftThings(document, 'one', things), into(document));
    const tops = Object.values(document.nodes).filter(({ parent }) => parent === null);
    expect(tops.map(({ name }) => name)).toEqual(['Group', 'Group', 'Group 2', 'Group 3']);
  });

  it('moves go on what is selected, else on what they were on, in the present shot', () => {
    const document = studio();
    const bundle = liftThings(document, 'one', [{ kind: 'move', id: 'turn' }]);
    putThings(document, bundle, into(document, { shot: 'two' }));
    expect(Object.values(document.shots['two']!.moves).map(({ target }) => target)).toEqual(['nodes/part']);
    putThings(
      document,
      bundle,
      into(document, {
        shot: 'two',
        onto: [
          { kind: 'node', id: 'group' },
          { kind: 'light', id: 'lamp' },
        ],
      }),
    );
    // A turntable is nothing for a lamp.
    expect(Object.values(document.shots['two']!.moves).map(({ target }) => target)).toEqual([
      'nodes/part',
      'nodes/group',
    ]);
    const other = structuredClone(newDocument('To'));
    expect(putThings(other, bundle, into(other))).toEqual([]);
  });

  it('keys go on the same property of what is selected, one copy each', () => {
    const document = studio();
    document.lights['other'] = newLight('bulb', { id: 'other' });
    const marks = [5, 9].map((frame) => ({ path: 'lights/lamp/power', frame }));
    const bundle = liftThings(document, 'one', [], marks);
    const onto = [{ kind: 'light' as const, id: 'other' }, { kind: 'node' as const, id: 'group' }]; // prettier-ignore
    putThings(document, bundle, into(document, { shot: 'two', frame: 30, onto }));
    const tracks = document.shots['two']!.tracks;
    expect(tracks['lights/other/power']!.map(({ frame }) => frame)).toEqual([30, 34]);
    expect(tracks['lights/lamp/power']).toBeUndefined();
  });

  it('keys begin at the playhead of another shot, and take the place of keys there', () => {
    const document = studio();
    const marks = [5, 9].map((frame) => ({ path: 'lights/lamp/power', frame }));
    const bundle = liftThings(document, 'one', [], marks);
    putThings(document, bundle, into(document, { shot: 'two', frame: 20 }));
    putThings(document, bundle, into(document, { shot: 'two', frame: 24 }));
    expect(document.shots['two']!.tracks['lights/lamp/power']!.map(({ frame, value }) => [frame, value])).toEqual([
      [20, 1],
      [24, 1],
      [28, 2],
    ]);
  });

  it('shots come with what leads somewhere', () => {
    const bundle = liftThings(studio(), 'one', [{ kind: 'shot', id: 'one' }]);
    const other = structuredClone(newDocument('To'));
    const [made] = putThings(other, bundle, into(other));
    expect(other.shots[made!.id]).toMatchObject({
      name: 'One',
      tracks: {},
      moves: {},
      camera: Object.keys(other.cameras)[0],
    });
    const document = studio();
    const [again] = putThings(document, bundle, into(document));
    expect(document.shots[again!.id]).toMatchObject({ name: 'One 2', camera: 'eye' });
    expect(Object.values(document.shots[again!.id]!.moves)).toHaveLength(1);
  });
});
