import { describe, expect, it } from 'vitest';
import {
  newDocument,
  newNode,
  openDocument,
  type Move,
  type MoveKind,
  type Pace,
  type ProjectDocument,
  type Vector3,
} from '../document';
import { conformFrameRate, evaluate, MOVE_KINDS, newMove, putUnfolded, unfoldMoves } from './index';

const PACES: Pace[] = [
  'strong-in',
  { spring: { stiffness: 3, damping: 0.3 } },
  { stepped: { count: 5, moving: 0.4, swing: 0.5 } },
];

function scene(): ProjectDocument {
  const document: ProjectDocument = structuredClone(newDocument('Unfold'));
  const part = (id: string, over: object) =>
    void (document.nodes[id] = newNode({
      id,
      name: id,
      kind: 'part',
      mesh: { asset: 'a'.repeat(64), index: 0 },
      ...over,
    }));
  document.nodes['g'] = newNode({
    id: 'g',
    name: 'Group',
    turn: [0.3, 0.7, -0.2],
    pivot: [10, 20, 5],
    position: [3, 4, 5],
  });
  part('p', { parent: 'g', position: [100, 0, 0], turn: [0, 0.4, 0] });
  part('q', { parent: 'g', position: [0, 50, 0], scale: [1, 2, 1] });
  part('lone', { position: [0, 0, -500] });
  Object.values(document.shots)[0]!.length = 60;
  return document;
}

const WHOLE: Partial<Record<MoveKind, object>> = {
  explode: { ways: [{ node: 'p', way: [50, 0, 0] }, { node: 'q', way: [0, 80, 9] }] },
  follow: { leader: 'lone', delay: 5, smoothing: 8 },
  aimPull: { to: { node: 'lone', point: [0, 0, 50] } },
  focusPull: { to: { node: 'lone', point: [0, 0, 50] } },
  route: { stations: [[0, 0, 900], [800, 100, 0], [0, 400, -700]].map((position) => ({ position: position as Vector3, target: [0, 0, 0], roll: 0.1, focalLength: 40, focusDistance: 700 })) },
  switching: { frames: [5, 9, 40] },
  orbit: { rise: 80, away: 0.6 },
  dolly: { forward: 120, right: -40, up: 15 },
  tick: { every: 10 },
}; // prettier-ignore

const PROPERTY: Partial<Record<MoveKind, string>> = { stops: 'tint', switching: 'on' };

function targetOf(document: ProjectDocument, kind: MoveKind): string {
  const { on, drives } = MOVE_KINDS[kind];
  const light = Object.keys(document.lights)[0]!;
  if (drives === 'value') return `lights/${light}/${PROPERTY[kind] ?? 'power'}`;
  return on.some((each) => each === 'nodes') ? 'nodes/g' : `cameras/${Object.keys(document.cameras)[0]!}`;
}

const shown = (document: ProjectDocument, shot: string, frame: number) => {
  const { parts, lights, camera } = evaluate(document, document.shots[shot]!, frame);
  return { parts: parts.map(({ node, transform }) => [node, transform]), lights, camera };
};

function same(a: unknown, b: unknown, at = ''): void {
  if (typeof a === 'number' && typeof b === 'number') {
    if (Math.abs(a - b) > 1e-6 * Math.max(1, Math.abs(a))) throw new Error(`${at}: ${a} is not ${b}`);
  } else if (typeof a === 'object' && a !== null && typeof b === 'object' && b !== null) {
    for (const key of Object.keys(a)) same((a as never)[key], (b as never)[key], `${at}/${key}`);
  } else expect(a).toBe(b);
}

describe('moves that are unfolded', () => {
  const cases = (Object.keys(MOVE_KINDS) as MoveKind[]).flatMap((kind) => PACES.map((pace) => [kind, pace] as const));
  it.each(cases)('%s with pace %j look the same on every frame', (kind, pace) => {
    for (const over of [{}, { repeat: 2, length: 20, mirrored: true }, { weight: 0.4, start: 11, length: 30 }]) {
      const document = scene();
      const shot = Object.values(document.shots)[0]!;
      const target = targetOf(document, kind);
      const light = Object.values(document.lights)[0]!;
      const present = { power: light.power, tint: light.tint, on: light.on }[target.split('/')[2] ?? ''];
      const whole =
        kind === 'stops'
          ? {
              stops: [
                { at: 0, value: [1, 0, 0] },
                { at: 1, value: [0, 0, 1] },
              ],
            }
          : (WHOLE[kind] ?? {});
      const move = { ...newMove(kind, target, 1, 60, { present }), ...whole, pace, ...over } as Move;
      shot.moves[move.id] = move;
      // What it follows is in motion itself.
      shot.moves['leader'] = { ...newMove('travel', 'nodes/lone', 1, 60), id: 'leader' } as Move;
      const after = structuredClone(document);
      const unfolded = unfoldMoves(document, shot, [move.id]);
      putUnfolded(after, shot.id, unfolded);
      expect(unfolded.moves).toEqual([move.id]);
      expect(Object.keys(after.shots[shot.id]!.moves)).toEqual(['leader']);
      expect(() => openDocument(after)).not.toThrow();
      for (let frame = 1; frame <= 60; frame++)
        same(shown(document, shot.id, frame), shown(after, shot.id, frame), `${kind} ${frame}`);
    }
  });

  it('take with them what acts on the same thing, and leave what is muted', () => {
    const document = scene();
    const shot = Object.values(document.shots)[0]!;
    const put = (id: string, move: Move, over: object = {}) => void (shot.moves[id] = { ...move, id, ...over } as Move);
    put('turn', newMove('turntable', 'nodes/g', 1, 60, { center: [40, 0, 0] }));
    put('rise', newMove('travel', 'nodes/g', 10, 30));
    put('sway', newMove('float', 'nodes/g', 1, 60), { muted: true });
    put('lamp', newMove('blink', `lights/${Object.keys(document.lights)[0]!}/power`, 1, 60));
    const after = structuredClone(document);
    const unfolded = unfoldMoves(document, shot, ['rise']);
    putUnfolded(after, shot.id, unfolded);
    expect(unfolded.moves.sort()).toEqual(['rise', 'turn']);
    expect(Object.keys(after.shots[shot.id]!.moves).sort()).toEqual(['lamp', 'sway']);
    for (let frame = 1; frame <= 60; frame++) same(shown(document, shot.id, frame), shown(after, shot.id, frame));
  });

  it('make as few keys as tell it', () => {
    const document = scene();
    document.nodes['g']!.turn = [0, 0, 0];
    document.nodes['g']!.pivot = [0, 0, 0];
    const shot = Object.values(document.shots)[0]!;
    const turn = newMove('turntable', 'nodes/g', 1, 60);
    shot.moves[turn.id] = turn;
    const { tracks } = unfoldMoves(document, shot, [turn.id]);
    expect(Object.keys(tracks)).toEqual(['nodes/g/turn']);
    expect(tracks['nodes/g/turn']!.map(({ frame }) => frame)).toEqual([1, 61]);
    shot.moves = {};
    const rise = {
      ...newMove('travel', 'nodes/lone', 11, 20),
      pace: { spring: { stiffness: 2, damping: 0.4 } },
    } as Move;
    shot.moves[rise.id] = rise;
    expect(unfoldMoves(document, shot, [rise.id]).tracks).toEqual({
      'nodes/lone/position': [
        { frame: 11, value: [0, 0, -500], pace: rise.pace },
        { frame: 30, value: [0, 50, -500], pace: 'linear' },
      ],
    });
  });
});

describe('another frame rate', () => {
  it('leaves switches at the same time', () => {
    const document = scene();
    const shot = Object.values(document.shots)[0]!;
    const move = {
      ...newMove('switching', `lights/${Object.keys(document.lights)[0]!}/on`, 1, 60, { present: true }),
      frames: [10, 20],
    } as Move;
    shot.moves[move.id] = move;
    conformFrameRate(document, {
      numerator: document.frameRate.numerator * 2,
      denominator: document.frameRate.denominator,
    });
    expect(Object.values(document.shots)[0]!.moves[move.id]).toMatchObject({ frames: [20, 40] });
  });
});
