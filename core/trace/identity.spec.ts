import { describe, expect, it } from 'vitest';
import {
  AIR,
  BEHIND,
  CAMERA,
  FINISH,
  FLOOR,
  GRADIENT,
  LIGHT,
  MAP,
  newLight,
  newMap,
  SKY,
  SURROUNDINGS,
  type Property,
  type Table,
} from '../document';
import type { FrameState } from '../motion';
import { frameIdentity } from './identity';
import { defaultRenderSettings } from './settings';
import { box, frameState } from './testing/renderState';

const settings = defaultRenderSettings();
const hashes = { grain: 'a', sky: 'b' };

function frame(): FrameState {
  const state = frameState({
    parts: [{ mesh: box(1, 1, 1) }],
    lights: [newLight('bulb', { id: 'b' })],
    set: (set) => (set.air.density = 0.5),
  });
  state.finishes['f0']!.maps.baseColor = newMap('baseColor', 'grain', { coding: 'linear' });
  return state;
}

/** Another value that the property may have. */
function another({ schema, default: standard }: Property, present: unknown): unknown {
  const tries = [present, standard].flatMap((value: unknown): unknown[] =>
    Array.isArray(value)
      ? [value.map((v: number) => v + 0.25), value.map((v: number) => v - 0.25)]
      : typeof value === 'number'
        ? [value + 0.25, value - 0.25, value + 1, value - 1, value / 2]
        : [
            value === false,
            'orthographic',
            'watt',
            'srgb',
            'green',
            'floor',
            'sky',
            'plate',
            'group',
            'over',
            'box',
            'once',
            'world',
            'front',
            'only',
            'toAndFro',
          ],
  );
  const found = tries.find((value) => value !== present && schema.safeParse(value).success);
  if (found === undefined) throw new Error('no other value');
  return found;
}

const tables: [string, Table, (state: FrameState) => object, ((state: FrameState) => void)?][] = [
  ['a finish', FINISH, (state) => state.finishes['f0']!],
  ['a map', MAP, (state) => state.finishes['f0']!.maps.baseColor!],
  ['a light', LIGHT, (state) => state.lights[0]!],
  ['a camera', CAMERA, (state) => state.camera!],
  ['the floor', FLOOR, (state) => state.set.floor, (state) => (state.set.floor.kind = 'sweep')],
  ['the surroundings', SURROUNDINGS, (state) => state.set.surroundings],
  [
    'a gradient',
    GRADIENT,
    (state) => state.set.surroundings.gradient,
    (state) => (state.set.surroundings.kind = 'gradient'),
  ],
  ['a sky', SKY, (state) => state.set.surroundings.sky, (state) => (state.set.surroundings.kind = 'sky')],
  ['the air', AIR, (state) => state.set.air],
  ['what is seen behind', BEHIND, (state) => state.set.behind],
];

describe('the name of a frame', () => {
  it.each(tables)('tells every property of %s that the tracer reads, and no other', (_, table, of, prepare) => {
    for (const [name, property] of Object.entries(table)) {
      const [before, after] = [frame(), frame()];
      for (const state of [before, after]) prepare?.(state);
      const own = of(after) as Record<string, unknown>;
      own[name] = another(property, own[name]);
      // The layer of a light is read only where layers are asked for.
      const asked = name === 'group' ? { ...settings, layers: ['lights' as const] } : settings;
      const same = frameIdentity(before, asked, hashes) === frameIdentity(after, asked, hashes);
      expect(same, name).toBe(!property.traced);
    }
  });

  it('tells by what a part is seen, and which lamps light it, whatever its id', () => {
    const names = new Set<string>();
    const named = (change: (state: FrameState) => void) => {
      const state = frame();
      change(state);
      names.add(frameIdentity(state, settings, hashes));
    };
    const node = frame().parts[0]!.node;
    named(() => undefined);
    for (const by of ['visibleToCamera', 'visibleInMirrors', 'castsShadows'] as const)
      named(({ parts }) => (parts[0]!.seen = { ...parts[0]!.seen, [by]: false }));
    named(({ lights }) => Object.assign(lights[0]!, { reaches: 'only', parts: [node] }));
    named(({ lights }) => Object.assign(lights[0]!, { reaches: 'only', parts: [] }));
    named(({ lights }) => Object.assign(lights[0]!, { reaches: 'except', parts: [node] }));
    expect(names.size).toBe(7);
    named(({ parts, lights }) => {
      parts[0]!.node = 'other';
      Object.assign(lights[0]!, { reaches: 'only', parts: ['other', 'gone'] });
    });
    expect(names.size).toBe(7);
  });

  it('stays when a later version knows more of things, and when what is switched off changes', () => {
    const first = frameIdentity(frame(), settings, hashes);
    const later = frame();
    for (const thing of [later.lights[0]!, later.camera!, later.finishes['f0']!, later.set.floor, later.set.air])
      (thing as unknown as Record<string, unknown>)['flutter'] = 0;
    expect(frameIdentity(later, { ...settings }, hashes)).toBe(first);
    const off = frame();
    off.set.surroundings.sky.turbidity = 5;
    off.set.surroundings.gradient.top = [1, 0, 0];
    off.lights[0]!.group = 'Keys';
    expect(frameIdentity(off, settings, hashes)).toBe(first);
  });
});
