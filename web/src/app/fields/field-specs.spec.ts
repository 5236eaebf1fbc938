import { describe, expect, it } from 'vitest';
import {
  MAP_SLOTS,
  newMap,
  lookSchema,
  newCamera,
  newDocument,
  newFinish,
  newLight,
  newMove,
  newNode,
  newShot,
  type Light,
  type MoveKind,
  type ProjectDocument,
} from '@zippy/core/document';
import type { SelectionKind } from '../state/studio.state';
import { fieldGroups, finishFields, lookFields, mapFields, setFields, type FieldGroup } from './field-specs';

const kinds: MoveKind[] = ['turntable', 'orbit', 'glide', 'fade', 'blink'];
const document: ProjectDocument = structuredClone(newDocument('Fields'));
document.nodes = { part: newNode({ id: 'part', mesh: { asset: 'a'.repeat(64), index: 0 } }) };
document.finishes = { gold: newFinish({ id: 'gold' }) };
const lamps: Light['kind'][] = ['panel', 'disc', 'tube', 'bulb', 'spot', 'sun'];
document.lights = Object.fromEntries(lamps.map((kind) => [kind, newLight(kind, { id: kind })]));
document.cameras = {
  eye: newCamera({ id: 'eye' }),
  plan: newCamera({ id: 'plan', projection: 'orthographic' }),
};
document.shots = {
  shot: newShot({
    id: 'shot',
    moves: Object.fromEntries(kinds.map((kind) => [kind, { ...newMove(kind, 'nodes/part', 1, 9), id: kind }])),
  }),
};
document.reel.clips = {
  clip: { id: 'clip', order: 0, take: 't', from: 1, to: 2, speed: 1, loop: 1, reverse: false },
};
const underSky = structuredClone(document);
underSky.set.surroundings.kind = 'sky';
document.takeLooks = { take: document.look };

function valueAt(path: string): unknown {
  let at: unknown = document;
  for (const step of path.split('/')) at = (at as Record<string, unknown>)[step];
  return at;
}
const paths = (groups: FieldGroup[]) => groups.flatMap((group) => group.fields.map((field) => field.path));
const selections: [SelectionKind, string][] = [
  ['node', 'part'],
  ['finish', 'gold'],
  ...lamps.map((kind): [SelectionKind, string] => ['light', kind]),
  ['camera', 'eye'],
  ['camera', 'plan'],
  ['shot', 'shot'],
  ...kinds.map((kind): [SelectionKind, string] => ['move', kind]),
  ['clip', 'clip'],
  ['take', 'take'],
];

describe('the card', () => {
  it.each(selections)('of a %s (%s) shows properties that are there, in fields of their kind', (kind, id) => {
    const groups = fieldGroups(document, { kind, id });
    expect(groups.length).toBeGreaterThan(0);
    for (const field of groups.flatMap((group) => group.fields)) {
      const value = valueAt(field.path);
      expect(value, field.path).toBeDefined();
      if (field.kind === 'number') expect(typeof value, field.path).toBe('number');
      if (field.kind === 'text') expect(typeof value, field.path).toBe('string');
      if (field.kind === 'switch') expect(typeof value, field.path).toBe('boolean');
      if (field.kind === 'vector' || field.kind === 'color') expect(value, field.path).toHaveLength(3);
      if (field.kind === 'choice') expect(field.options!.length, field.path).toBeGreaterThan(0);
    }
  });

  it('leaves out nothing that a finish, light, camera or set can have', () => {
    const shown = new Set([
      ...paths(finishFields('finishes/gold')),
      ...lamps.flatMap((id) =>
        paths(fieldGroups(document, { kind: 'light', id })).map((path) => path.replace(id, 'panel')),
      ),
      ...['eye', 'plan'].flatMap((id) =>
        paths(fieldGroups(document, { kind: 'camera', id })).map((path) => path.replace(id, 'eye')),
      ),
      ...paths(setFields(document)),
      ...paths(setFields(underSky)),
      ...paths(lookFields('look')),
    ]);
    // Set elsewhere: names in the title, order and switches on the desks.
    const elsewhere = /\/(id|name|order|kind|solo|sky)$/;
    const own = (path: string) => Object.keys(valueAt(path) as object).map((name) => `${path}/${name}`);
    const worn = MAP_SLOTS.flatMap((slot) => mapFields(document, 'gold', slot).map(({ path }) => path));
    for (const path of worn) shown.add(path);
    const all = [
      // Its pictures have a place of their own below the fields.
      ...own('finishes/gold').filter((path) => !path.endsWith('/maps')),
      ...Object.keys(newMap('specularRoughness', '')).map((name) => `finishes/gold/maps/specularRoughness/${name}`),
      ...own('lights/panel'),
      ...own('cameras/eye'),
      ...['floor', 'surroundings', 'surroundings/sky', 'air', 'behind'].flatMap((part) => own(`set/${part}`)),
      ...Object.keys(lookSchema.shape).map((name) => `look/${name}`),
    ];
    expect(all.filter((path) => !elsewhere.test(path) && !shown.has(path))).toEqual([]);
  });

  it('of a part without a mesh offers no finish', () => {
    document.nodes['group'] = newNode({ id: 'group' });
    expect(fieldGroups(document, { kind: 'node', id: 'group' }).map((group) => group.title)).toEqual(['Place']);
  });

  it('of a move that is gone is empty', () => {
    expect(fieldGroups(document, { kind: 'move', id: 'gone' })).toEqual([]);
  });
});
