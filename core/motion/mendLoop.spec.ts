import { describe, expect, it } from 'vitest';
import {
  newCamera,
  newDocument,
  newLight,
  newNode,
  newShot,
  openDocument,
  type Key,
  type Move,
  type MoveKind,
  type Shot,
  type Value,
  type Vector3,
} from '../document';
import { findSeamFaults, mendLoop, MOVE_KINDS, newMove } from './index';

const document = newDocument('Loop');
document.nodes = {
  radio: newNode({ id: 'radio', pivot: [10, 20, 30], position: [5, 0, 0] }),
  leg: newNode({ id: 'leg', parent: 'radio', kind: 'part' }),
};
document.lights = { key: newLight('panel', { id: 'key', position: [0, 0, 300], target: [0, 0, 0] }) };
document.cameras = { eye: newCamera({ id: 'eye' }) };

const OVER: Partial<Record<MoveKind, object>> = {
  turntable: { turns: 1.4 },
  tick: { every: 7, angle: 0.5 },
  explode: { ways: [{ node: 'leg', way: [40, 0, 0] }] },
  orbit: { angle: 2, rise: 50 },
  dolly: { forward: 80 },
  route: { stations: [[0, 0, 900], [800, 100, 0], [0, 400, -700]].map((position) => ({ position: position as Vector3, target: [0, 0, 0], roll: 0, focalLength: 40, focusDistance: 700 })) },
  stops: { stops: [{ at: 0, value: [1, 0, 0] }, { at: 1, value: [0, 0, 1] }] },
  switching: { first: true, second: false, frames: [10] },
}; // prettier-ignore
const PROPERTY: Partial<Record<MoveKind, string>> = { stops: 'tint', switching: 'on' };

const targetOf = (kind: MoveKind): string => {
  const { on, drives } = MOVE_KINDS[kind];
  if (drives === 'value') return `lights/key/${PROPERTY[kind] ?? 'power'}`;
  return on.some((each) => each === 'nodes') ? 'nodes/radio' : 'cameras/eye';
};
const jumps = (shot: Shot) => (findSeamFaults(document, shot) ?? []).filter(({ jump, twice }) => jump > 0 || twice);

describe('a shot that is made to loop', () => {
  it.each(Object.keys(MOVE_KINDS) as MoveKind[])(
    'does so with a %s, whether it fills the shot or is cut off',
    (kind) => {
      for (const length of [48, 30, 70]) {
        const move = {
          ...newMove(kind, targetOf(kind), 1, length, { present: 500 }),
          ...(OVER[kind] ?? {}),
          id: 'm',
        } as Move;
        const made = mendLoop(document, newShot({ length: 48, moves: { m: move } }));
        expect(jumps(made)).toEqual([]);
        expect(() => openDocument({ ...document, shots: { [made.id]: made } })).not.toThrow();
      }
    },
  );

  const key = (frame: number, value: Value, pace: Key['pace'] = 'linear'): Key => ({ frame, value, pace });
  it.each([
    ['goes away', 'lights/key/power', [key(1, 100), key(48, 900)]],
    ['is back too early', 'lights/key/power', [key(1, 100), key(24, 900), key(48, 100)]],
    ['ends before', 'nodes/radio/position', [key(5, [0, 0, 0]), key(20, [0, 80, 0])]],
    ['nearly turns round', 'nodes/radio/turn', [key(1, [0, 0, 0]), key(48, [0, 6.2, 0])]],
    ['goes on beyond the end', 'cameras/eye/focalLength', [key(1, 40), key(60, 90), key(90, 20)]],
    ['is switched', 'lights/key/on', [key(1, true), key(20, false)]],
  ] as const)('comes back where it %s', (_what, path, keys) => {
    const made = mendLoop(
      document,
      newShot({ length: 48, tracks: { [path]: structuredClone(keys) as unknown as Key[] } }),
    );
    expect(findSeamFaults(document, made)).toEqual([]);
    expect(() => openDocument({ ...document, shots: { [made.id]: made } })).not.toThrow();
  });

  it('makes a turn whole instead of taking it back', () => {
    const made = mendLoop(
      document,
      newShot({ length: 48, tracks: { 'nodes/radio/turn': [key(1, [0, 0, 0]), key(48, [0, 6.2, 0])] } }),
    );
    expect(made.tracks['nodes/radio/turn']!.at(-1)).toMatchObject({ frame: 49, value: [0, 2 * Math.PI, 0] });
  });

  it('is left as it is where it loops', () => {
    const shot = newShot({ length: 48, moves: { m: { ...newMove('turntable', 'nodes/radio', 1, 48), id: 'm' } } });
    expect(mendLoop(document, shot)).toBe(shot);
  });
});
