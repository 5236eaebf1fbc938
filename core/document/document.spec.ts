import { pictureOfSource } from '../optics';
import {
  applyDocumentPatches,
  checkDocument,
  emptyHistory,
  makeEdit,
  newClip,
  newDocument,
  newFinish,
  newLight,
  newMap,
  newNode,
  openDocument,
  readProperty,
  redo,
  remember,
  undo,
  UserProblem,
  writeProperty,
  type Edit,
  type History,
  type ProjectDocument,
} from './index';
import { newMove } from '../motion';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
type Recipe = (draft: ProjectDocument) => void;

/** Random edits of every kind a user makes: add, change, remove, reparent, key. */
const recipe: fc.Arbitrary<Recipe> = fc
  .tuple(
    fc.integer({ min: 0, max: 6 }),
    fc.integer({ min: 0, max: 50 }),
    fc.double({ min: -100, max: 100, noNaN: true }),
  )
  .map(([kind, pick, number]): Recipe => {
    const choose = (record: Record<string, unknown>): string | undefined => {
      const ids = Object.keys(record);
      return ids[pick % Math.max(1, ids.length)];
    };
    return (draft) => {
      const shot = Object.values(draft.shots)[0]!;
      if (kind === 0) {
        const light = newLight('bulb', { id: `l${pick}` });
        draft.lights[light.id] = light;
      } else if (kind === 1) {
        const id = choose(draft.lights);
        if (id) delete draft.lights[id];
      } else if (kind === 2) {
        const id = choose(draft.lights);
        if (id) draft.lights[id]!.position[1] = number;
      } else if (kind === 3) {
        draft.nodes[`n${pick}`] = newNode({ id: `n${pick}`, name: 'Part' });
      } else if (kind === 4) {
        const keys = (shot.tracks['set/surroundings/turn'] ??= []);
        keys.push({ frame: pick, value: number, pace: 'ease' });
        keys.sort((a, b) => a.frame - b.frame);
      } else if (kind === 5) {
        const keys = shot.tracks['set/surroundings/turn'];
        if (keys) keys.splice(pick % (keys.length + 1), 1);
      } else {
        draft.finishes[`f${pick}`] = newFinish({ id: `f${pick}` });
        shot.moves[`m${pick}`] = { ...newMove('ramp', `finishes/f${pick}/emissionPower`, 1, 10), id: `m${pick}` };
      }
    };
  });

describe('edits', () => {
  it('undone all together give back the same document, and redone the changed one', () => {
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 40 }), (recipes) => {
        const first = newDocument('Property');
        let document = first;
        let history: History = emptyHistory;
        for (const each of recipes) {
          const made = makeEdit(document, 'edit', each);
          document = made.document;
          if (made.edit) history = remember(history, made.edit);
        }
        const changed = document;
        const steps = history.done.length;
        for (let step = 0; step < steps; step++) ({ document, history } = undo(document, history));
        expect(document).toEqual(first);
        for (let step = 0; step < steps; step++) ({ document, history } = redo(document, history));
        expect(document).toEqual(changed);
      }),
      { numRuns: 150 },
    );
  });

  it('of one gesture become one step of undo', () => {
    let document = newDocument('Drag');
    let history: History = emptyHistory;
    const start = document.look.exposure;
    for (let step = 1; step <= 20; step++) {
      const made = makeEdit(document, 'Exposure', (draft) => void (draft.look.exposure = step / 10), 'drag-1');
      document = made.document;
      history = remember(history, made.edit!);
    }
    expect(history.done).toHaveLength(1);
    expect(undo(document, history).document.look.exposure).toBe(start);
  });

  it('that change nothing leave no trace', () => {
    const document = newDocument('Same');
    const made = makeEdit(document, 'nothing', (draft) => void (draft.name = 'Same'));
    expect(made.edit).toBeNull();
    expect(made.document).toBe(document);
  });

  it('that point at something gone are refused with a sentence, and climb no prototype', () => {
    const document = newDocument('Gone');
    const patch = { op: 'replace', path: ['lights', 'nobody', 'power'], value: 5 } as const;
    expect(() => applyDocumentPatches(document, [patch as unknown as Edit['patches'][0]])).toThrow(UserProblem);
    const evil = { op: 'add', path: ['__proto__', 'polluted'], value: 1 } as const;
    expect(() => applyDocumentPatches(document, [evil as unknown as Edit['patches'][0]])).toThrow(UserProblem);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });
});

describe('opening a document', () => {
  it('accepts what it wrote', () => {
    const document = newDocument('Round trip');
    expect(openDocument(JSON.parse(JSON.stringify(document)))).toEqual(document);
  });

  it('brings a document of version 0 up to date', () => {
    const now = newDocument('Old');
    const old = { ...now, schemaVersion: 0, frameRate: 25, shots: Object.values(now.shots) };
    const opened = openDocument(JSON.parse(JSON.stringify(old)));
    expect(opened.frameRate).toEqual({ numerator: 25, denominator: 1 });
    expect(Object.keys(opened.shots)).toEqual(Object.keys(now.shots));
  });

  it('brings a document of version 3 up to date: its models keep their files and have no recipe', () => {
    const asset = {
      id: 'm',
      name: 'Lamp',
      kind: 'model',
      hash: 'a'.repeat(64),
      sourceHash: 'b'.repeat(64),
      sourceName: 'l.stl',
    };
    const opened = openDocument({ ...newDocument('F'), schemaVersion: 3, assets: { m: asset } });
    expect(opened.assets['m']).toEqual({
      ...asset,
      companions: [],
      deep: null,
      footage: null,
      sound: null,
      recipe: null,
      found: {},
    });
  });

  it('brings a document of version 13 up to date: its reel plays as before, with nothing over or under it', () => {
    const clip = { id: 'c', order: 2, take: 't', from: 3, to: 9, speed: 0.5, loop: 2, reverse: true };
    const opened = openDocument({ ...newDocument('F'), schemaVersion: 13, reel: { clips: { c: clip } } });
    expect(opened.reel).toEqual({
      ...newDocument('F').reel,
      clips: {
        c: newClip(
          { kind: 'take', take: 't' },
          { id: 'c', order: 2, from: 3, to: 9, speed: 0.5, loop: 2, play: 'backwards' },
        ),
      },
    });
  });

  it('brings a document of version 14 up to date: nothing of it belongs to the plate', () => {
    const now = newDocument('F');
    const without = (part: object, name: string) => Object.fromEntries(Object.entries(part).filter(([own]) => own !== name)); // prettier-ignore
    const opened = openDocument({
      ...now,
      schemaVersion: 14,
      nodes: { n: without(newNode({ id: 'n' }), 'ofPlate') },
      set: { ...now.set, floor: without(now.set.floor, 'catches'), behind: without(now.set.behind, 'shade') },
    });
    expect(opened.nodes['n']!.ofPlate).toBe('no');
    expect([opened.set.floor.catches, opened.set.behind.shade]).toEqual([false, 1]);
  });

  it('brings a document of version 6 up to date: pictures that were placed stay as they were seen', () => {
    const now = newDocument('F');
    const without = (part: object) => Object.fromEntries(Object.entries(part).filter(([name]) => name !== 'mirrored'));
    const surroundings = { ...without(now.set.surroundings), kind: 'picture', picture: 'sky' };
    const behind = without(now.set.behind);
    const { set } = openDocument({ ...now, schemaVersion: 6, set: { ...now.set, surroundings, behind } });
    expect([set.surroundings.mirrored, set.behind.mirrored]).toEqual([true, false]);
  });

  it('brings a document of version 7 up to date: its maps are of pictures', () => {
    const map = newMap('baseColor', 'grain', { repeatU: 2 });
    const { source, ...rest } = map;
    const worn = { ...newFinish({ id: 'f' }), maps: { baseColor: { picture: pictureOfSource(source), ...rest } } };
    const opened = openDocument({ ...newDocument('F'), schemaVersion: 7, finishes: { f: worn } });
    expect(opened.finishes['f']!.maps).toEqual({ baseColor: map });
  });

  it('brings a document of version 12 up to date: it renders every frame with blur, and says what files are called', () => {
    const now = newDocument('F');
    const without = (record: object, ...names: string[]) =>
      Object.fromEntries(Object.entries(record).filter(([name]) => !names.includes(name)));
    const way = without({ ...now.render, samples: 77 }, 'motionBlur', 'step');
    const settings = without({ ...now.settings, lengthUnit: 'inch' }, 'fileNames', 'dotsPerInch');
    const old = without(now, 'takeNotes', 'looks');
    const [shot] = Object.values(now.shots);
    const opened = openDocument(
      JSON.parse(
        JSON.stringify({
          ...old,
          schemaVersion: 12,
          settings,
          render: way,
          presets: { p: { ...way, id: 'p', name: 'Web', order: 1 } },
          shots: { a: without({ ...shot, id: 'a', render: way }, 'look'), b: without({ ...shot, id: 'b' }, 'look') },
        }),
      ),
    );
    expect(opened.settings).toEqual({ ...now.settings, lengthUnit: 'inch' });
    for (const each of [opened.render, opened.presets['p']!, opened.shots['a']!.render!])
      expect(each).toMatchObject({ samples: 77, motionBlur: true, step: 1 });
    expect([opened.shots['b']!.render, opened.shots['b']!.look]).toEqual([null, null]);
    expect([opened.takeNotes, opened.looks]).toEqual([{}, {}]);
  });

  it('brings a document of version 11 up to date: its moves act in full, about what they acted about, and its shots are in the film', () => {
    const now = structuredClone(newDocument('F'));
    now.nodes = { n: newNode({ id: 'n' }) };
    const [shot] = Object.values(now.shots);
    const { markers, framed, included, ...oldShot } = shot!;
    const base = {
      name: 'Move',
      target: 'nodes/n',
      start: 1,
      length: 48,
      repeat: 1,
      mirrored: false,
      pace: 'linear',
      axis: [0, 1, 0],
    };
    const moves = {
      t: { id: 't', kind: 'turntable', ...base, turns: 1, startAngle: 0, direction: 1 },
      o: { id: 'o', kind: 'orbit', ...base, angle: 1, center: null },
    };
    const opened = openDocument(
      JSON.parse(JSON.stringify({ ...now, schemaVersion: 11, shots: { s: { ...oldShot, id: 's', moves } } })),
    );
    expect(opened.shots['s']).toMatchObject({ markers, framed, included });
    expect(opened.shots['s']!.moves['t']).toMatchObject({ muted: false, weight: 1, perCopy: 0, center: null });
    expect(opened.shots['s']!.moves['o']).toMatchObject({ rise: 0, away: 1 });
  });

  it('brings a document of version 8 up to date: films in the usual size, rendered as before', () => {
    const without = (of: object, ...names: string[]) =>
      Object.fromEntries(Object.entries(of).filter(([name]) => !names.includes(name)));
    const now = newDocument('F');
    const shots = Object.entries(now.shots).map(([id, shot]) => [id, without(shot, 'picture', 'render', 'range')]);
    const old = without(now, 'settings', 'picture', 'render', 'presets');
    const opened = openDocument({ ...old, schemaVersion: 8, shots: Object.fromEntries(shots) });
    expect(opened).toEqual(now);
    expect(opened.picture).toEqual({ width: 1920, height: 1080 });
    expect(opened.render).toMatchObject({ share: 'half', samples: 32, depth: 10, speckLimit: 12 });
  });

  it('brings a document of version 5 up to date: surroundings as they were, nothing else behind', () => {
    const now = newDocument('Old');
    const { kind, picture, color, turn, brightness, sky } = now.set.surroundings;
    const set = {
      ...now.set,
      surroundings: { kind, picture, color, turn, brightness: 0.4, sky },
      behind: { kind: 'color', color: [1, 0, 0] },
    };
    const opened = openDocument(JSON.parse(JSON.stringify({ ...now, schemaVersion: 5, set })));
    expect(brightness).not.toBe(0.4);
    expect(opened.set.surroundings).toEqual({ ...now.set.surroundings, brightness: 0.4 });
    expect(opened.set.behind).toEqual({ ...now.set.behind, kind: 'color', color: [1, 0, 0] });
  });

  it('brings a document of version 1 up to date: power in lumens gets its unit, wherever it is named', () => {
    const now = newDocument('Old');
    const { power: lumens, ...key } = newLight('panel', { id: 'key', power: 123 });
    const { emissionPower, ...lit } = newFinish({ id: 'lit', emissionPower: 7 });
    const shot = Object.values(now.shots)[0]!;
    const old = {
      ...now,
      schemaVersion: 1,
      lights: { key: { ...key, lumens } },
      finishes: { lit: { ...lit, emissionLumens: emissionPower } },
      cameras: Object.fromEntries(
        Object.entries(now.cameras).map(([id, { shutterAngle: _, ...camera }]) => [id, camera]),
      ),
      set: { floor: now.set.floor, surroundings: { ...now.set.surroundings, sky: undefined }, behind: now.set.behind },
      shots: {
        [shot.id]: {
          ...shot,
          changes: { 'lights/key/lumens': 5 },
          tracks: { 'finishes/lit/emissionLumens': [{ frame: 1, value: 2, pace: 'linear' }] },
          moves: { m: { ...newMove('blink', 'lights/key/lumens', 1, 9), id: 'm' } },
        },
      },
    };
    const opened = openDocument(JSON.parse(JSON.stringify(old)));
    expect([opened.lights['key']!.power, opened.lights['key']!.unit]).toEqual([123, 'lumen']);
    expect(opened.finishes['lit']!.emissionPower).toBe(7);
    // What was rendered without motion blur stays so.
    expect(Object.values(opened.cameras)[0]!.shutterAngle).toBe(0);
    expect(opened.set.air.density).toBe(0);
    const [moved] = Object.values(opened.shots);
    expect(Object.keys(moved!.changes)).toEqual(['lights/key/power']);
    expect(Object.keys(moved!.tracks)).toEqual(['finishes/lit/emissionPower']);
    expect(moved!.moves['m']!.target).toBe('lights/key/power');
  });

  it('refuses one from the future and says what to do', () => {
    expect(() => openDocument({ ...newDocument('F'), schemaVersion: 99 })).toThrow(/newer Zippy Reel.*Update/);
  });

  it.each([null, 7, 'text', [], {}, { schemaVersion: -1 }, { schemaVersion: 1, name: 'x' }])('refuses %j', (data) => {
    expect(() => openDocument(data)).toThrow(UserProblem);
  });

  it('refuses numbers out of range and names the place', () => {
    const document = structuredClone(newDocument('Range'));
    Object.values(document.cameras)[0]!.focalLength = Number.POSITIVE_INFINITY;
    expect(() => checkDocument(document)).toThrow(/focalLength/);
  });

  it('refuses groups that contain themselves or parents that are missing', () => {
    const circle = structuredClone(newDocument('Circle'));
    circle.nodes['a'] = newNode({ id: 'a', parent: 'b' });
    circle.nodes['b'] = newNode({ id: 'b', parent: 'a' });
    expect(() => checkDocument(circle)).toThrow(/contain itself/);
    const lost = structuredClone(newDocument('Lost'));
    lost.nodes['a'] = newNode({ id: 'a', parent: 'nobody' });
    expect(() => checkDocument(lost)).toThrow(/does not exist/);
  });
});

describe('property paths', () => {
  it('read and write values and ignore what is not there or of another kind', () => {
    const document = structuredClone(newDocument('Paths'));
    writeProperty(document, 'set/surroundings/turn', 1.5);
    expect(readProperty(document, 'set/surroundings/turn')).toBe(1.5);
    writeProperty(document, 'set/surroundings/turn', true);
    expect(readProperty(document, 'set/surroundings/turn')).toBe(1.5);
    expect(readProperty(document, 'set/nothing/turn')).toBeUndefined();
    expect(readProperty(document, 'set/constructor/name')).toBeUndefined();
  });
});
