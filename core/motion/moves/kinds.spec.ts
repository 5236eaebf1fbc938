import { describe, expect, it } from 'vitest';
import {
  newDocument,
  newCopies,
  newNode,
  type Camera,
  type Move,
  type MoveKind,
  type ProjectDocument,
  type Shot,
  type Vector3,
} from '../../document';
import { distance, transformPoint } from '../../geometry';
import { evaluate, evaluateProperties } from '../evaluate';
import { unfoldMoves } from '../unfold';
import { newMove } from './index';

type Of<K extends MoveKind> = Extract<Move, { kind: K }>;

function scene() {
  const document: ProjectDocument = structuredClone(newDocument('Moves'));
  const part = (id: string, over: object) =>
    void (document.nodes[id] = newNode({
      id,
      name: id,
      kind: 'part',
      mesh: { asset: 'a'.repeat(64), index: 0 },
      ...over,
    }));
  document.nodes['g'] = newNode({ id: 'g', name: 'Group' });
  part('p', { parent: 'g', position: [100, 0, 0] });
  part('q', { parent: 'g', position: [0, 50, 0] });
  part('lone', { position: [0, 0, -500] });
  const shot = Object.values(document.shots)[0]!;
  shot.length = 96;
  const camera = Object.values(document.cameras)[0]!;
  Object.assign(camera, { position: [0, 0, 1000], target: [0, 0, 0], focusDistance: 1000, focalLength: 50 });
  return { document, shot, camera };
}

const put = <K extends MoveKind>(
  shot: Shot,
  kind: K,
  target: string,
  over: Partial<Of<K>> = {},
  start = 1,
  length = 96,
): Of<K> => {
  const move = { ...newMove(kind, target, start, length), pace: 'linear', ...over } as Of<K>;
  shot.moves[move.id] = move;
  return move;
};
const at = (document: ProjectDocument, shot: Shot, node: string, frame: number, point: Vector3 = [0, 0, 0]): Vector3 =>
  transformPoint(evaluate(document, shot, frame).parts.find((part) => part.node === node)!.transform, point);
const seen = (document: ProjectDocument, shot: Shot, frame: number): Camera => evaluate(document, shot, frame).camera!;
const close = (v: readonly number[], digits = 6) => v.map((each) => expect.closeTo(each, digits));

describe('moves of parts', () => {
  it('turn about a centre that is not their own', () => {
    const { document, shot } = scene();
    put(shot, 'turntable', 'nodes/p', { center: [0, 0, 0] });
    put(shot, 'hinge', 'nodes/lone', { axis: [1, 0, 0], center: [0, 0, -400], to: Math.PI / 2 });
    expect(at(document, shot, 'p', 25)).toEqual(close([0, 0, -100]));
    expect(at(document, shot, 'lone', 96)).toEqual(close([0, 100, -400]));
  });

  it('tick: rest, step on, and are at whole steps in between', () => {
    const { document, shot } = scene();
    put(shot, 'tick', 'nodes/g', { angle: Math.PI / 2, every: 24, moving: 0.25, swing: 0.5 });
    expect(at(document, shot, 'p', 18)).toEqual(close([100, 0, 0]));
    expect(at(document, shot, 'p', 25)).toEqual(close([0, 0, -100]));
    expect(at(document, shot, 'p', 30)).toEqual(close([0, 0, -100]));
    // The swing goes past the step and comes back.
    const x = Array.from({ length: 7 }, (_, k) => at(document, shot, 'p', 19 + k)[0]);
    expect(Math.min(...x)).toBeLessThan(-1);
    expect(at(document, shot, 'p', 97)).toEqual(close([100, 0, 0]));
  });

  it('float up and down, gently leaning, and close their loop', () => {
    const { document, shot } = scene();
    const move = put(shot, 'float', 'nodes/g', { height: 30, lean: 0.1, period: 32 });
    const heights = Array.from(
      { length: 96 },
      (_, k) => evaluateProperties(document, shot, k + 1).nodes['g']!.position[1],
    );
    expect(Math.max(...heights)).toBeCloseTo(15, 1);
    expect(Math.min(...heights)).toBeCloseTo(-15, 1);
    expect(heights.slice(0, 32)).toEqual(close(heights.slice(32, 64)));
    expect(at(document, shot, 'p', 97)).toEqual(close(at(document, shot, 'p', 1)));
    expect(at(document, shot, 'p', 20)).not.toEqual(
      close(at(document, { ...shot, moves: { [move.id]: { ...move, seed: 2 } } }, 'p', 20)),
    );
  });

  it('shake within bounds, the same again with the same seed', () => {
    const { document, shot, camera } = scene();
    put(shot, 'shake', 'nodes/g', { angle: 0, shift: 4, every: 5 });
    put(shot, 'shake', `cameras/${camera.id}`, { angle: 0.02, shift: 0 });
    const places = Array.from({ length: 96 }, (_, k) => at(document, shot, 'q', k + 1));
    for (const place of places)
      expect(Math.max(...place.map((v, k) => Math.abs(v - [0, 50, 0][k]!)))).toBeLessThanOrEqual(4);
    expect(Math.max(...places.map((place) => Math.abs(place[0])))).toBeGreaterThan(1);
    const looks = Array.from({ length: 96 }, (_, k) => seen(document, shot, k + 1));
    for (const { position, target } of looks) {
      expect(position).toEqual([0, 0, 1000]);
      expect(distance(target, [0, 0, 0])).toBeLessThan(1000 * 0.02 * 1.6);
    }
    expect(Math.max(...looks.map(({ target }) => distance(target, [0, 0, 0])))).toBeGreaterThan(5);
  });

  it('come apart one after the other, and gather', () => {
    const { document, shot } = scene();
    const ways = [
      { node: 'p', way: [50, 0, 0] as Vector3 },
      { node: 'q', way: [0, 80, 0] as Vector3 },
      { node: 'gone', way: [1, 1, 1] as Vector3 },
    ];
    const move = put(shot, 'explode', 'nodes/g', { ways, stagger: 0.5 }, 1, 97);
    shot.length = 97;
    expect(at(document, shot, 'p', 97)).toEqual(close([150, 0, 0]));
    expect(at(document, shot, 'q', 97)).toEqual(close([0, 130, 0]));
    expect(at(document, shot, 'p', 25)).toEqual(close([125, 0, 0]));
    // The second of three begins a quarter later.
    expect(at(document, shot, 'q', 25)).toEqual(close([0, 50, 0]));
    shot.moves[move.id] = { ...move, gathers: true };
    expect(at(document, shot, 'p', 1)).toEqual(close([150, 0, 0]));
    expect(at(document, shot, 'q', 97)).toEqual(close([0, 50, 0]));
  });

  it('follow another with delay, in the space of what they hang under, and never themselves', () => {
    const { document, shot } = scene();
    document.nodes['g']!.turn = [0, Math.PI / 2, 0];
    put(shot, 'travel', 'nodes/lone', { from: [0, 0, 0], to: [96, 0, 0] }, 1, 97);
    put(shot, 'follow', 'nodes/p', { leader: 'lone', delay: 10 }, 1, 97);
    const begun = at(document, shot, 'p', 1);
    expect(at(document, shot, 'p', 11)).toEqual(close(begun));
    expect(at(document, shot, 'p', 61)).toEqual(close([begun[0] + 50, begun[1], begun[2]]));
    const camera = Object.values(document.cameras)[0]!;
    put(shot, 'follow', `cameras/${camera.id}`, { leader: 'lone', smoothing: 12 }, 1, 97);
    expect(seen(document, shot, 1).position).toEqual([0, 0, 1000]);
    expect(seen(document, shot, 61).position[0]).toBeCloseTo(60 - 6, 6);
    expect(seen(document, shot, 61).target[0]).toBeCloseTo(54, 6);
    // Two that follow one another come to rest instead of going round for ever.
    put(shot, 'follow', 'nodes/lone', { leader: 'p' }, 1, 97);
    expect(at(document, shot, 'lone', 50).every(Number.isFinite)).toBe(true);
  });
});

describe('moves of cameras', () => {
  it('rise and come nearer on an orbit', () => {
    const { document, shot, camera } = scene();
    put(shot, 'orbit', `cameras/${camera.id}`, { angle: Math.PI, rise: 200, away: 0.25 });
    expect(seen(document, shot, 96).position).toEqual(close([0, 200, -250]));
  });

  it('travel in their own directions, from where they stand or to there', () => {
    const { document, shot, camera } = scene();
    camera.position = [1000, 0, 0];
    const move = put(shot, 'dolly', `cameras/${camera.id}`, { forward: 300, right: 40, up: 20 });
    expect(seen(document, shot, 96).position).toEqual(close([700, 20, -40]));
    expect(seen(document, shot, 96).target).toEqual(close([0, 0, 0]));
    shot.moves[move.id] = { ...move, arrives: true, keepAim: false };
    expect(seen(document, shot, 96).position).toEqual(close([1000, 0, 0]));
    expect(seen(document, shot, 1).position).toEqual(close([1300, -20, 40]));
    expect(seen(document, shot, 1).target).toEqual(close([300, -20, 40]));
  });

  it('push the lens, and keep the size of what they look at', () => {
    const { document, shot, camera } = scene();
    put(shot, 'lensPush', `cameras/${camera.id}`, { from: 40, to: 160, keepSize: true });
    for (const frame of [1, 30, 96]) {
      const { focalLength, position, focusDistance } = seen(document, shot, frame);
      expect(position[2] / focalLength).toBeCloseTo(1000 / 40, 9);
      expect(focusDistance / position[2]).toBeCloseTo(1, 9);
    }
    expect(seen(document, shot, 96).focalLength).toBeCloseTo(160);
  });

  it('pull the focus between things that move', () => {
    const { document, shot, camera } = scene();
    put(shot, 'travel', 'nodes/lone', { from: [0, 0, 0], to: [0, 0, 200] });
    put(shot, 'focusPull', `cameras/${camera.id}`, { from: null, to: { node: 'lone', point: [0, 0, 50] } });
    expect(seen(document, shot, 1).focusDistance).toBeCloseTo(1000);
    expect(seen(document, shot, 96).focusDistance).toBeCloseTo(1250);
  });

  it('look from one thing to another while both move', () => {
    const { document, shot, camera } = scene();
    put(shot, 'travel', 'nodes/lone', { from: [0, 0, 0], to: [0, 0, 200] });
    const move = put(shot, 'aimPull', `cameras/${camera.id}`, { to: { node: 'lone', point: [10, 0, 0] } });
    expect(seen(document, shot, 1).target).toEqual(close([0, 0, 0]));
    expect(seen(document, shot, 96).target).toEqual(close([10, 0, -300]));
    // What it stays aimed at itself is where it begins.
    camera.aimOn = { node: 'q', point: [0, 0, 0] };
    expect(seen(document, shot, 1).target).toEqual(close([0, 50, 0]));
    shot.moves[move.id] = { ...move, to: { node: 'gone', point: [0, 0, 0] } };
    expect(seen(document, shot, 96).target).toEqual(close([0, 0, 0]));
  });

  it('route through viewpoints at one speed within a thousandth', () => {
    const { document, shot, camera } = scene();
    const station = (position: Vector3, focalLength: number) => ({
      position,
      target: [0, 0, 0] as Vector3,
      roll: 0,
      focalLength,
      focusDistance: 500,
    });
    const stations = [
      station([0, 0, 1000], 35),
      station([900, 200, 300], 50),
      station([950, 240, 250], 60),
      station([-200, 700, -800], 100),
    ];
    const move = put(shot, 'route', `cameras/${camera.id}`, { stations });
    const places = Array.from({ length: 96 * 8 - 7 }, (_, k) => seen(document, shot, 1 + k / 8).position);
    const steps = places.slice(1).map((place, k) => distance(place, places[k]!));
    const perFrame = Array.from({ length: 95 }, (_, k) => steps.slice(8 * k, 8 * k + 8).reduce((a, b) => a + b, 0));
    const mean = perFrame.reduce((a, b) => a + b, 0) / 95;
    for (const step of perFrame) expect(Math.abs(step / mean - 1)).toBeLessThan(1e-3);
    expect(seen(document, shot, 1).focalLength).toBeCloseTo(35);
    expect(seen(document, shot, 96).position).toEqual(close([-200, 700, -800]));
    // By time instead, each viewpoint is reached after as long.
    shot.moves[move.id] = { ...move, even: false, length: 97 };
    expect(seen(document, shot, 33).position).toEqual(close([900, 200, 300], 3));
    shot.moves[move.id] = { ...move, smooth: false, closed: true };
    expect(seen(document, shot, 96).position).toEqual(close([0, 0, 1000]));
    shot.moves[move.id] = { ...move, stations: [] };
    expect(seen(document, shot, 50).position).toEqual([0, 0, 1000]);
    shot.moves[move.id] = { ...move, stations: [stations[1]!, stations[1]!] };
    expect(seen(document, shot, 50).position).toEqual(close([900, 200, 300]));
  });
});

describe('moves of values', () => {
  it('go through stops', () => {
    const { document, shot } = scene();
    const light = Object.values(document.lights)[0]!;
    const stops = [
      { at: 0, value: [1, 0, 0] },
      { at: 0.5, value: [0, 1, 0] },
      { at: 1, value: [0, 0, 1] },
    ] as Of<'stops'>['stops'];
    put(shot, 'stops', `lights/${light.id}/tint`, { stops });
    const tint = (frame: number) => evaluateProperties(document, shot, frame).lights[light.id]!.tint;
    expect(tint(1)).toEqual([1, 0, 0]);
    expect(tint(25)).toEqual(close([0.5, 0.5, 0]));
    expect(tint(49)).toEqual(close([0, 1, 0]));
  });

  it('switch at exact frames, and by a pattern', () => {
    const { document, shot } = scene();
    const light = Object.values(document.lights)[0]!;
    const move = put(
      shot,
      'switching',
      `lights/${light.id}/on`,
      { first: true, second: false, frames: [10, 20, 30] },
      5,
      40,
    );
    const on = (frame: number) => evaluateProperties(document, shot, frame).lights[light.id]!.on;
    expect([1, 14, 15, 24, 25, 34, 35, 90].map(on)).toEqual([true, true, false, false, true, true, false, false]);
    shot.moves[move.id] = { ...move, by: 'pattern', pattern: '1101', every: 4 };
    expect([4, 5, 12, 13, 16, 17, 20, 21, 45].map(on)).toEqual([
      true,
      false,
      false,
      true,
      true,
      false,
      false,
      false,
      true,
    ]);
  });

  it('do nothing while muted, and in part by their weight', () => {
    const { document, shot } = scene();
    const light = Object.values(document.lights)[0]!;
    light.power = 100;
    const fade = put(shot, 'ramp', `lights/${light.id}/power`, { from: 200, to: 300 });
    const power = () => evaluateProperties(document, shot, 96).lights[light.id]!.power;
    expect(power()).toBe(300);
    shot.moves[fade.id] = { ...fade, weight: 0.25 };
    expect(power()).toBe(150);
    shot.moves[fade.id] = { ...fade, muted: true };
    expect(power()).toBe(100);
    const travel = put(shot, 'travel', 'nodes/lone', { from: [0, 0, 0], to: [0, 80, 0], weight: 0.5 });
    expect(at(document, shot, 'lone', 96)).toEqual(close([0, 40, -500]));
    shot.moves[travel.id] = { ...travel, muted: true };
    expect(at(document, shot, 'lone', 96)).toEqual([0, 0, -500]);
  });
});

describe('a move of something that is copied', () => {
  it('reaches the copies one after the other, with what hangs below them', () => {
    const { document, shot } = scene();
    document.nodes['g']!.copies = newCopies({ kind: 'line', count: 3, spacing: [1000, 0, 0] });
    const move = put(shot, 'travel', 'nodes/g', { from: [0, 0, 0], to: [0, 95, 0], perCopy: 20 });
    const heights = (frame: number) =>
      evaluate(document, shot, frame)
        .parts.filter(({ node }) => node === 'q')
        .map(({ transform }) => transform[7] - 50);
    expect(heights(31)).toEqual(close([30, 10, 0]));
    expect(heights(96)).toEqual(close([95, 75, 55]));
    // A further move reaches each where the first has brought it.
    put(shot, 'travel', 'nodes/g', { from: [0, 0, 0], to: [0, 0, 95] });
    expect(heights(31)).toEqual(close([30, 10, 0]));
    expect(evaluate(document, shot, 31).parts.filter(({ node }) => node === 'q').map(({ transform }) => transform[11])).toEqual(close([30, 30, 30])); // prettier-ignore
    expect(unfoldMoves(document, shot, [move.id]).moves).toEqual([]);
    shot.moves[move.id] = { ...move, perCopy: 0 };
    expect(heights(31)).toEqual(close([30, 30, 30]));
  });
});
