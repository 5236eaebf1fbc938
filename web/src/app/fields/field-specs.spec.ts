import { evaluateProperties, MOVE_KINDS, newMove } from '@zippy/core/motion';
import { gripPlace } from '@zippy/core/scene';
import {
  defaultLook,
  newAsset,
  newClip,
  newSound,
  newTitle,
  checkDocument,
  documentSchema,
  MAP,
  MAP_SLOTS,
  madeMap,
  newCopies,
  newMap,
  newPictureMap,
  lookSchema,
  newCamera,
  newDocument,
  newFinish,
  newLight,
  newNode,
  newShot,
  newTrack,
  writeProperty,
  propertyAt,
  type Light,
  type MoveKind,
  type ProjectDocument,
  type SetPiece,
  type Value,
} from '@zippy/core/document';
import { newSetPiece } from '@zippy/core/geometry';
import { describe, expect, it } from 'vitest';
import type { SelectionKind } from '../store/view/view.state';
import { restingState } from '@zippy/core/scene';
import { MADE_SOURCES, MAP_SOURCES } from '@zippy/core/optics';
import { layerGroups } from './map-fields';
import { copyFields, fieldGroups, finishFields, lookFields, pivotFields, setFields } from './field-specs';
import { projectFields } from './project-fields';
import { patientFields, renderGroups } from './render-fields';
import type { FieldGroup } from '../kinds/field';

const kinds = Object.keys(MOVE_KINDS) as MoveKind[];
const document: ProjectDocument = structuredClone(newDocument('Fields'));
document.nodes = { part: newNode({ id: 'part', mesh: { asset: 'a'.repeat(64), index: 0 } }) };
document.finishes = { gold: newFinish({ id: 'gold' }) };
const lamps: Light['kind'][] = ['panel', 'disc', 'tube', 'bulb', 'spot', 'sun', 'card'];
document.lights = Object.fromEntries(lamps.map((kind) => [kind, newLight(kind, { id: kind })]));
for (const [kind, id] of [
  ['ring', 'tube'],
  ['arc', 'bulb'],
  ['rail', 'spot'],
] as const)
  document.lights[id]!.track = newTrack({ kind });
document.lights['disc']!.aimOn = { node: 'part', point: [0, 0, 0] };
document.cameras = {
  eye: newCamera({ id: 'eye' }),
  follower: newCamera({ id: 'follower', focusOn: { node: 'part', point: [0, 0, 0] } }),
  plan: newCamera({ id: 'plan', projection: 'orthographic' }),
};
document.shots = {
  shot: newShot({
    id: 'shot',
    moves: Object.fromEntries(kinds.map((kind) => [kind, { ...newMove(kind, 'nodes/part', 1, 9), id: kind }])),
  }),
};
document.reel.clips = {
  clip: newClip({ kind: 'take', take: 't' }, { id: 'clip', to: 2, look: defaultLook() }),
  changed: newClip({ kind: 'footage', asset: 'f' }, { id: 'changed', change: 'wipe', ramp: 'even', repeat: 'length' }),
  dipped: newClip({ kind: 'plain' }, { id: 'dipped', change: 'dip' }),
};
document.reel.titles = {
  words: newTitle({ id: 'words' }),
  drawn: newTitle({ id: 'drawn', picture: 'p', enter: 'cut', leave: 'cut' }),
};
document.reel.sounds = { sound: newSound({ id: 'sound', name: 'Sound', asset: 's' }) };
document.reel.picture = { width: 640, height: 360 };
document.reel.closingFrames = 12;
const hash = 'b'.repeat(64);
const filmed = newAsset({
  id: 'f',
  name: 'Filmed',
  kind: 'footage',
  hash,
  footage: { frames: [hash], rate: 24, size: null, brightness: [0.5] },
});
const sets = (['color', 'gradient', 'picture', 'sky'] as const).flatMap((kind) =>
  (['color', 'picture', 'plate'] as const).map((behind) => {
    const made = structuredClone(document);
    made.set.surroundings.kind = kind;
    made.set.behind.kind = behind;
    // One that was filmed has all the fields that a plate can have.
    if (behind === 'plate') {
      made.assets['f'] = filmed;
      made.set.behind.plate = 'f';
    }
    return made;
  }),
);
document.takeLooks = { take: document.look };
document.finishes['gold']!.maps = {
  ...Object.fromEntries(MAP_SLOTS.map((slot) => [slot, newMap(slot, 'p')])),
  'specularRoughness-box': newMap('specularRoughness', 'p', { projection: 'box' }),
  'specularRoughness-flat': newMap('specularRoughness', 'p', { projection: 'planar' }),
  ...Object.fromEntries(MADE_SOURCES.map((kind) => [kind, madeMap('coatWeight', kind)])),
  footage: newPictureMap('coatWeight', { id: 'v', kind: 'footage', sourceName: 'v.mp4' }),
};
// Whatever stands on one layer can stand on another.
const everyLayer = Object.keys(document.finishes['gold']!.maps)
  .flatMap((id) => layerGroups(document, 'gold', id))
  .map(({ title, fields }) => ({
    title,
    fields: fields.map((each) => ({ ...each, path: each.path.replace(/-(box|flat)\//, '/') })),
  }));

function valueAt(path: string): unknown {
  let at: unknown = document;
  for (const step of path.split('/')) at = (at as Record<string, unknown> | null)?.[step];
  return at;
}
const paths = (groups: FieldGroup[]) => groups.flatMap((group) => group.fields.map((field) => field.path));
const selections: [SelectionKind, string][] = [
  ['node', 'part'],
  ['finish', 'gold'],
  ...lamps.map((kind): [SelectionKind, string] => ['light', kind]),
  ['camera', 'eye'],
  ['camera', 'plan'],
  ['camera', 'follower'],
  ['shot', 'shot'],
  ...kinds.map((kind): [SelectionKind, string] => ['move', kind]),
  ['clip', 'clip'],
  ['clip', 'changed'],
  ['clip', 'dipped'],
  ['title', 'words'],
  ['title', 'drawn'],
  ['sound', 'sound'],
  ['take', 'take'],
];

describe('the card', () => {
  it.each(selections)('of a %s (%s) shows properties that are there, in fields of their kind', (kind, id) => {
    const groups = fieldGroups(document, { kind, id });
    expect(groups.length).toBeGreaterThan(0);
    for (const field of groups.flatMap((group) => group.fields)) {
      const { read, derived } = field;
      const value = read ? read(document) : derived ? derived.of(restingState(document)) : valueAt(field.path);
      // A focus that follows nothing has no node.
      if (!field.write) expect(value, field.path).toBeDefined();
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
      ...sets.flatMap((each) => paths(setFields(each))),
      ...paths(lookFields(document, 'look')),
    ]);
    // Set elsewhere: names in the title, order and switches on the desks.
    const elsewhere = /\/(id|source|muted|focusOn|aimOn|track|parts|name|order|kind|solo|sky|gradient)$/;
    const own = (path: string) => Object.keys(valueAt(path) as object).map((name) => `${path}/${name}`);
    for (const { path } of everyLayer.flatMap(({ fields }) => fields)) shown.add(path);
    const all = [
      // Its pictures have a place of their own below the fields.
      ...own('finishes/gold').filter((path) => !path.endsWith('/maps')),
      ...Object.keys(MAP).map((name) => `finishes/gold/maps/specularRoughness/${name}`),
      ...Object.entries(MAP_SOURCES).flatMap(([kind, { table }]) =>
        Object.keys(table).map((name) => `finishes/gold/maps/${kind}/source/${name}`),
      ),
      ...own('lights/panel'),
      ...own('lights/tube/track').map((path) => path.replace('tube', 'panel')),
      ...own('cameras/eye'),
      ...['floor', 'surroundings', 'surroundings/sky', 'surroundings/gradient', 'air', 'behind'].flatMap((part) =>
        own(`set/${part}`),
      ),
      // Its lights have a place of their own on the card of a take.
      ...Object.keys(lookSchema.shape)
        .filter((name) => !name.startsWith('lights'))
        .map((name) => `look/${name}`),
    ];
    expect(all.filter((path) => !elsewhere.test(path) && !shown.has(path))).toEqual([]);
  });

  const everyField = [
    ...selections.flatMap(([kind, id]) => fieldGroups(document, { kind, id })),
    ...sets.flatMap((each) => setFields(each)),
    ...lookFields(document, 'look'),
    ...everyLayer,
    ...(['line', 'grid', 'ring'] as const).map((kind) => ({
      title: kind,
      fields: copyFields('part', newCopies({ kind })),
    })),
    { title: 'Turning point', fields: pivotFields('part', document) },
    ...projectFields(document, 'times'),
    ...renderGroups(document, document.shots['shot']!),
    { title: 'Patient', fields: patientFields('render') },
  ].flatMap(({ fields }) => fields);

  it('lets nothing through that the document would refuse, whatever is typed', () => {
    const whole = structuredClone(document);
    whole.nodes['part']!.copies = newCopies();
    let tried = 0;
    for (const field of everyField.filter(({ kind }) => kind === 'number' || kind === 'vector' || kind === 'color')) {
      const { min = -1e9, max = 1e9, scale = 1, path } = field;
      // What its number fields let through: their ends, a bit beyond a whole number, nothing, and both signs.
      for (const shown of [min, max, 2.3, 0, -1, 1e-7, 1e9, -1e9, (min + max) / 2]) {
        const typed = Math.min(max, Math.max(min, shown)) * scale;
        const given: Value = field.kind === 'number' ? typed : [typed, typed, typed];
        const draft = structuredClone(whole);
        const value = field.bring ? field.bring(given) : given;
        const { derived } = field;
        if (derived) writeProperty(draft, derived.path, derived.to(restingState(draft), value));
        else if (field.write) field.write(draft, value);
        else {
          const steps = path.split('/');
          const name = steps.pop()!;
          const owner = steps.reduce<unknown>((at, step) => (at as Record<string, unknown>)[step], draft);
          (owner as Record<string, unknown>)[name] = value;
        }
        expect(documentSchema.safeParse(draft).error?.issues, `${path} ${shown}`).toBeUndefined();
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(1000);
  });

  it('offers of every choice only what the document takes', () => {
    for (const field of everyField.filter(({ kind, write }) => kind === 'choice' && !write)) {
      const property = propertyAt(field.path);
      if (!property) continue;
      for (const { value } of field.options!) expect(property.schema.safeParse(value).success, field.path).toBe(true);
    }
  });

  it('of a thin sheet hides what it does not have, and the switch says so', () => {
    const [solid, sheet] = [false, true].map((thinWalled) =>
      finishFields('finishes/gold', { thinWalled }).flatMap(({ fields }) => fields),
    );
    const hidden = solid!.filter(({ path }) => !sheet!.some((each) => each.path === path)).map(({ label }) => label);
    expect(hidden).toEqual(['Colour depth', 'Cloudiness', 'Forward', 'Rainbow', 'Abbe number']);
    expect(sheet!.find(({ label }) => label === 'Thin sheet')!.hint).toContain('hidden');
  });

  it('of a part without a mesh offers no finish', () => {
    document.nodes['group'] = newNode({ id: 'group' });
    expect(fieldGroups(document, { kind: 'node', id: 'group' }).map((group) => group.title)).toEqual(['Place', 'Seen']);
  });

  it('of a move that is gone is empty', () => {
    expect(fieldGroups(document, { kind: 'move', id: 'gone' })).toEqual([]);
  });
});

describe('fields of a node', () => {
  const document = () => {
    const made = structuredClone(newDocument('Fields'));
    made.nodes['n'] = newNode({ id: 'n', turn: [0, 1, 0], copies: newCopies({ kind: 'grid' }) });
    return made;
  };

  it('keep a grid within the number of copies that a project takes', () => {
    const draft = document();
    const counts = copyFields('n', draft.nodes['n']!.copies!).find(({ path }) => path.endsWith('counts'))!;
    counts.write!(draft, [9000, 1, 3]);
    expect(draft.nodes['n']!.copies!.counts).toEqual([3333, 1, 3]);
    counts.write!(draft, [9000, 9000, 2]);
    const [x, y, z] = draft.nodes['n']!.copies!.counts;
    expect(x * y * z).toBeLessThanOrEqual(10_000);
    expect(() => checkDocument(structuredClone(draft))).not.toThrow();
  });

  it('leave a node where it is when its turning point is typed, and take no axis without a direction', () => {
    const draft = document();
    const [point, axis] = pivotFields('n', draft);
    const place = () => gripPlace(evaluateProperties(draft, null, 1), { collection: 'nodes', id: 'n' })!;
    point!.write!(draft, [50, 0, 0]);
    expect(place().map((v) => Math.round(v))).toEqual([27, 0, -42]);
    axis!.write!(draft, [0, 0, 0]);
    expect(draft.nodes['n']!.axis).toEqual([0, 1, 0]);
    axis!.write!(draft, [3, 0, 4]);
    expect(draft.nodes['n']!.axis).toEqual([0.6, 0, 0.8].map((v) => expect.closeTo(v, 9)));
  });

  it('are the dimensions of a set piece, and none of a part of a file', () => {
    const draft = document();
    const titles = () => fieldGroups(draft, { kind: 'node', id: 'n' }).map(({ title }) => title);
    expect(titles()).not.toContain('Frame');
    draft.nodes['n']!.mesh = { piece: newSetPiece('frame', 100) as Extract<SetPiece, { kind: 'frame' }> };
    const labels = () => fieldGroups(draft, { kind: 'node', id: 'n' }).find(({ title }) => title === 'Frame')!.fields.map(({ label }) => label); // prettier-ignore
    expect(labels()).toEqual(['Width', 'Height', 'Bar', 'Depth', 'Section']);
    draft.nodes['n']!.mesh = { piece: { ...newSetPiece('frame', 100), section: 'round' } as SetPiece };
    expect(labels()).toEqual(['Width', 'Height', 'Bar', 'Section']);
  });

  it('have the focus of a camera follow a turning point, and no distance of its own meanwhile', () => {
    const draft = document();
    draft.nodes['n']!.pivot = [1, 2, 3];
    const [id] = Object.keys(draft.cameras) as [string];
    const sharpness = () =>
      fieldGroups(draft, { kind: 'camera', id }).find(({ title }) => title === 'Sharpness')!.fields;
    const follows = () => sharpness().find(({ label }) => label === 'Follows')!;
    expect(follows().options!.map(({ label }) => label)).toEqual(['Nothing', 'Group']);
    expect(sharpness().map(({ label }) => label)).toContain('Sharp at');
    follows().write!(draft, 'n');
    expect(draft.cameras[id]!.focusOn).toEqual({ node: 'n', point: [1, 2, 3] });
    expect(sharpness().map(({ label }) => label)).not.toContain('Sharp at');
    follows().write!(draft, null);
    expect(draft.cameras[id]!.focusOn).toBeNull();
  });

  it('of lights and cameras hang them on a node where they stand', () => {
    const draft = document();
    draft.nodes['n']!.position = [0, 100, 0];
    const [id] = Object.keys(draft.lights) as [string];
    const before = structuredClone(draft.lights[id]!);
    const hangs = fieldGroups(draft, { kind: 'light', id }).flatMap(({ fields }) => fields).find(({ label }) => label === 'Hangs on')!; // prettier-ignore
    expect(hangs.options!.map(({ label }) => label)).toEqual(['Nothing', 'Group']);
    hangs.write!(draft, 'n');
    expect(draft.lights[id]!.parent).toBe('n');
    expect(draft.lights[id]!.position[1]).toBeCloseTo(before.position[1] - 100, 6);
    hangs.write!(draft, null);
    draft.lights[id]!.position.forEach((v, k) => expect(v).toBeCloseTo(before.position[k]!, 6));
  });
});
