import type { Pose } from './moves';
import { behaviourOf, evaluate, evaluateProperties, moveProgress, paced, resizeShot, trackValue } from './index';
import { forgetTargets, rescaleNode } from '../scene';
import {
  newDocument,
  newFinish,
  newNode,
  newShot,
  type Move,
  type ProjectDocument,
  type Shot,
  type Vector3,
} from '../document';
import { newMove } from './moves';
import { describe, expect, it } from 'vitest';
import { transformPoint } from '../geometry';
const HASH = 'a'.repeat(64);

function scene(): { document: ProjectDocument; shot: Shot } {
  const document = structuredClone(newDocument('Motion'));
  document.finishes['f'] = newFinish({ id: 'f' });
  document.nodes['g'] = newNode({ id: 'g', name: 'Body' });
  document.nodes['p'] = newNode({
    id: 'p',
    name: 'Knob',
    parent: 'g',
    kind: 'part',
    mesh: { asset: HASH, index: 0 },
    finish: 'f',
    position: [100, 0, 0],
  });
  const shot = Object.values(document.shots)[0]!;
  return { document, shot };
}

const place = (document: ProjectDocument, shot: Shot, frame: number): Vector3 =>
  transformPoint(evaluate(document, shot, frame).parts[0]!.transform, [0, 0, 0]);

type Behaviour = ReturnType<typeof behaviourOf>;
const carrying = (move: Move) => behaviourOf(move) as Extract<Behaviour, { drives: 'place' }>;
const driving = (move: Move) => behaviourOf(move) as Extract<Behaviour, { drives: 'value' }>;

describe('pace', () => {
  it('begins at 0 and ends at 1, whatever the curve', () => {
    for (const pace of ['linear', 'ease', 'ease-in', 'ease-out', 'held', { curve: [0.3, 1.4, 0.6, 1] }] as const) {
      expect(paced(pace as never, 0)).toBe(0);
      expect(paced(pace as never, 1)).toBe(1);
    }
  });

  it('of a straight custom curve is linear, of an overshooting one goes beyond', () => {
    for (const t of [0.1, 0.5, 0.83]) expect(paced({ curve: [1 / 3, 1 / 3, 2 / 3, 2 / 3] }, t)).toBeCloseTo(t, 9);
    expect(paced({ curve: [0.2, 1.8, 0.6, 1.2] }, 0.5)).toBeGreaterThan(1);
  });

  it('eases: slower at the soft end', () => {
    expect(paced('ease-in', 0.25)).toBeLessThan(0.25);
    expect(paced('ease-out', 0.25)).toBeGreaterThan(0.25);
    expect(paced('ease', 0.5)).toBe(0.5);
    expect(paced('held', 0.999)).toBe(0);
  });
});

describe('keys', () => {
  const key = (frame: number, value: number | boolean | Vector3, pace: 'linear' | 'held' = 'linear') => ({
    frame,
    value,
    pace,
  });

  it('hold before the first and after the last', () => {
    const keys = [key(10, 1), key(20, 3)];
    expect([1, 10, 15, 20, 99].map((frame) => trackValue(keys, frame, 'number'))).toEqual([1, 1, 2, 3, 3]);
  });

  it('held keys and switches jump on the frame of the next key', () => {
    expect(trackValue([key(1, 5, 'held'), key(10, 9)], 9.99, 'number')).toBe(5);
    expect(trackValue([key(1, true), key(10, false)], 9, 'boolean')).toBe(true);
    expect(trackValue([key(1, true), key(10, false)], 10, 'boolean')).toBe(false);
  });

  it('turn more than once about one axis', () => {
    const keys = [key(0, [0, 0, 0]), key(100, [0, 4 * Math.PI, 0])];
    const [, y] = trackValue(keys, 75, 'rotation') as Vector3;
    expect(y).toBeCloseTo(3 * Math.PI);
  });

  it('go the short way between poses and do not wobble at the pole', () => {
    const { document, shot } = scene();
    shot.tracks['nodes/p/turn'] = [key(0, [Math.PI / 2, 0, 0]), key(100, [Math.PI / 2, 1, 0.4])];
    let before = place(document, shot, 0);
    for (let frame = 0; frame <= 100; frame++) {
      const tip = transformPoint(evaluate(document, shot, frame).parts[0]!.transform, [10, 0, 0]);
      if (frame > 0) expect(Math.hypot(...tip.map((v, k) => v - before[k]!))).toBeLessThan(0.2);
      before = tip;
    }
  });
});

describe('moves', () => {
  const turntable = (over: Partial<Extract<Move, { kind: 'turntable' }>> = {}) =>
    ({ ...newMove('turntable', 'nodes/g', 1, 96), ...over }) as Extract<Move, { kind: 'turntable' }>;

  it('a turntable never shows its first frame twice: the last frame is one step before it', () => {
    const { document, shot } = scene();
    shot.moves['m'] = turntable({ id: 'm' });
    const first = place(document, shot, 1);
    const second = place(document, shot, 2);
    const last = place(document, shot, 96);
    const again = place(document, shot, 97);
    expect(first[2]).toBeCloseTo(0);
    expect(last[2]).toBeCloseTo(-second[2]);
    expect(last[0]).toBeCloseTo(second[0]);
    again.forEach((value, axis) => expect(value).toBeCloseTo(first[axis]!, 6));
  });

  it('a turntable turns with its direction, number of turns and start angle', () => {
    const { document, shot } = scene();
    shot.moves['m'] = turntable({ id: 'm', turns: 2, direction: -1, startAngle: Math.PI / 2 });
    expect(place(document, shot, 1)[2]).toBeCloseTo(-100);
    expect(place(document, shot, 1 + 12)[0]).toBeCloseTo(100);
  });

  it('a node turns about its pivot', () => {
    const { document, shot } = scene();
    document.nodes['g']!.pivot = [100, 0, 0];
    shot.moves['m'] = turntable({ id: 'm' });
    expect(place(document, shot, 30)[0]).toBeCloseTo(100);
  });

  it('a glide arrives on the last frame of its block and stays', () => {
    const { document, shot } = scene();
    shot.moves['m'] = { ...newMove('travel', 'nodes/g', 10, 11), id: 'm', pace: 'linear' } as Move;
    expect(place(document, shot, 5)[1]).toBe(0);
    expect(place(document, shot, 15)[1]).toBeCloseTo(25);
    expect(place(document, shot, 20)[1]).toBeCloseTo(50);
    expect(place(document, shot, 60)[1]).toBeCloseTo(50);
  });

  it('an orbit keeps the distance to what is looked at', () => {
    const { document, shot } = scene();
    const camera = Object.values(document.cameras)[0]!;
    shot.moves['m'] = { ...newMove('orbit', `cameras/${camera.id}`, 1, 50), id: 'm' } as Move;
    const far = (frame: number) => {
      const { position, target } = evaluate(document, shot, frame).camera!;
      return Math.hypot(position[0] - target[0], position[1] - target[1], position[2] - target[2]);
    };
    for (const frame of [1, 20, 50]) expect(far(frame)).toBeCloseTo(far(1), 6);
    expect(evaluate(document, shot, 50).camera!.position[0]).not.toBeCloseTo(camera.position[0]);
  });

  it('a blink comes exactly as often as asked', () => {
    const blink = { ...newMove('blink', 'nodes/p/glow', 11, 60), count: 3, softness: 0 } as Extract<
      Move,
      { kind: 'blink' }
    >;
    const lit = Array.from({ length: 100 }, (_, k) => Number(driving(blink).value(blink, k + 1, false)) > 0.5);
    const rises = lit.filter((on, k) => on && !lit[k - 1]).length;
    expect(rises).toBe(3);
    expect(lit.filter(Boolean)).toHaveLength(30);
    expect(lit.slice(0, 10).some(Boolean)).toBe(false);
    expect(lit.slice(70).some(Boolean)).toBe(false);
  });

  it('repeat, and mirrored run to and fro', () => {
    const run = { ...newMove('travel', 'nodes/g', 1, 10), repeat: 3, mirrored: true } as Move;
    // Each run of ten frames goes there and back.
    expect(moveProgress(run, 3.5)).toBeCloseTo(0.5);
    expect(moveProgress(run, 6)).toBeCloseTo(1);
    expect(moveProgress(run, 13.5)).toBeCloseTo(0.5);
    expect(moveProgress(run, 99)).toBe(0);
    // One run is enough for it.
    expect(moveProgress({ ...run, repeat: 1 }, 6)).toBeCloseTo(1);
    expect(moveProgress({ ...run, repeat: 1 }, 11)).toBe(0);
  });

  it('of turns go on where the run before ended, tick by tick', () => {
    const tick = { ...newMove('turntable', 'nodes/g', 1, 10), turns: 1 / 12, repeat: 12, startAngle: 0 } as Extract<
      Move,
      { kind: 'turntable' }
    >;
    const angle = (move: typeof tick, frame: number) => {
      const pose: Pose = {
        position: [0, 0, 0],
        pivot: [0, 0, 0],
        target: null,
        aim: null,
        spin: [0, 0, 0, 1],
        lens: null,
      };
      carrying(move).carry(move, frame, pose, { id: 'g', wayOf: () => null });
      return 2 * Math.atan2(pose.spin[1], pose.spin[3]);
    };
    const degrees = (frame: number) => (angle(tick, frame) * 180) / Math.PI;
    expect([1, 11, 21, 116].map(degrees)).toEqual([0, 30, 60, 345].map((v) => expect.closeTo(v, 6)));
    expect(degrees(121)).toBeCloseTo(360, 6);
    expect(angle({ ...tick, mirrored: true }, 6)).toBeCloseTo(Math.PI / 6, 6);
  });

  it('ramps of one property take turns', () => {
    const { document, shot } = scene();
    const fade = (id: string, start: number, from: number, to: number) =>
      ({ ...newMove('ramp', 'finishes/f/emissionPower', start, 11), id, from, to, pace: 'linear' }) as Move;
    shot.moves['up'] = fade('up', 10, 0, 50);
    shot.moves['down'] = fade('down', 40, 50, 5);
    const lumens = (frame: number) => evaluate(document, shot, frame).finishes['f']!.emissionPower;
    expect([1, 15, 30, 45, 90].map(lumens)).toEqual([0, 25, 50, 27.5, 5]);
  });
});

describe('shots', () => {
  it('do not disturb each other or the resting state', () => {
    const { document, shot } = scene();
    const other = newShot({ id: 'other' });
    document.shots['other'] = other;
    shot.changes['nodes/g/position'] = [0, 500, 0];
    shot.tracks['set/surroundings/turn'] = [{ frame: 1, value: 2, pace: 'linear' }];
    const before = JSON.stringify(document);
    expect(place(document, shot, 1)[1]).toBe(500);
    expect(evaluateProperties(document, shot, 1).set.surroundings.turn).toBe(2);
    expect(place(document, other, 1)[1]).toBe(0);
    expect(evaluateProperties(document, other, 1).set.surroundings.turn).toBe(0);
    expect(JSON.stringify(document)).toBe(before);
  });

  it('leave out what is hidden with its group, and lights that are off or not solo', () => {
    const { document, shot } = scene();
    shot.changes['nodes/g/visible'] = false;
    expect(evaluate(document, shot, 1).parts).toHaveLength(0);
    const [key] = Object.values(document.lights);
    document.lights['b'] = { ...key!, id: 'b', solo: true };
    document.lights['c'] = { ...key!, id: 'c', on: false, solo: true };
    expect(evaluate(document, shot, 1).lights.map((light) => light.id)).toEqual(['b']);
  });

  it('ignore changes and keys of things that have been deleted', () => {
    const { document, shot } = scene();
    shot.changes['lights/gone/power'] = 5;
    shot.tracks['finishes/gone/baseColor'] = [{ frame: 1, value: [1, 0, 0], pace: 'linear' }];
    shot.moves['m'] = { ...newMove('orbit', 'cameras/gone', 1, 5), id: 'm' } as Move;
    expect(evaluate(document, shot, 3).parts).toHaveLength(1);
  });
});

describe('sources of a shot', () => {
  it('are those that shine now, and those that the shot switches at any time', () => {
    const { document, shot } = scene();
    const [key] = Object.keys(document.lights);
    document.lights['spare'] = { ...document.lights[key!]!, id: 'spare', name: 'Spare', on: false };
    document.lights['blink'] = { ...document.lights[key!]!, id: 'blink', name: 'Blinker', on: false, group: 'signals' };
    shot.tracks['lights/blink/on'] = [
      { frame: 1, value: false, pace: 'held' },
      { frame: 10, value: true, pace: 'held' },
    ];
    shot.tracks['finishes/f/emissionPower'] = [{ frame: 1, value: 0, pace: 'linear' }];
    for (const frame of [1, 12]) {
      const { sources, lights } = evaluate(document, shot, frame);
      expect(lights).toHaveLength(frame === 1 ? 1 : 2);
      expect(sources!.lamps.map(({ id }) => id).sort()).toEqual([key, 'blink'].sort());
      expect(sources!.finishes).toEqual([document.finishes['f']!.name]);
    }
    expect(evaluate(document, null, 1).sources!.lamps.map(({ id }) => id)).toEqual([key]);
  });
});

describe('what is deleted', () => {
  it('takes its moves, keys and changes of every shot along, and nothing else', () => {
    const { document, shot } = scene();
    shot.moves = {
      own: { ...newMove('turntable', 'nodes/g', 1, 10), id: 'own' },
      other: { ...newMove('turntable', 'nodes/gg', 1, 10), id: 'other' },
    };
    shot.tracks = { 'nodes/g/position': [{ frame: 1, value: [0, 0, 0], pace: 'linear' }], 'look/exposure': [] };
    shot.changes = { 'nodes/g/visible': false };
    forgetTargets(document, 'nodes', ['g']);
    expect([Object.keys(shot.moves), Object.keys(shot.tracks), shot.changes]).toEqual([
      ['other'],
      ['look/exposure'],
      {},
    ]);
    forgetTargets(document, 'cameras', [shot.camera ?? '']);
    expect(shot.camera).toBeNull();
  });
});

describe('a model that turns out to be in another unit', () => {
  it('grows about its turning point, stays on the floor, and takes keys and travels along', () => {
    const { document, shot } = scene();
    const node = document.nodes['g']!;
    Object.assign(node, { parent: null, position: [5, -10, 0], pivot: [0, 30, 0], scale: [1, 1, 1] });
    shot.tracks = { 'nodes/g/scale': [{ frame: 1, value: [2, 2, 2], pace: 'linear' }] };
    shot.moves = { m: { ...newMove('travel', 'nodes/g', 1, 10), id: 'm' } };
    // Its middle is at 20, its lowest point on the floor.
    rescaleNode(document, 'g', 10, 0);
    expect([node.scale, node.position]).toEqual([
      [10, 10, 10],
      [5, 170, 0],
    ]);
    expect(shot.tracks['nodes/g/scale']![0]!.value).toEqual([20, 20, 20]);
    expect(shot.moves['m']).toMatchObject({ to: [0, 500, 0] });
  });
});

describe('a shot of another length', () => {
  it('keeps what fills it filling it, and leaves all else', () => {
    const { shot } = scene();
    shot.length = 96;
    shot.moves = {
      whole: { ...newMove('turntable', 'nodes/g', 1, 96), id: 'whole' },
      twice: { ...newMove('orbit', 'cameras/c', 1, 48), id: 'twice', repeat: 2 },
      part: { ...newMove('travel', 'nodes/g', 10, 20), id: 'part' },
    };
    resizeShot(shot, 48);
    expect([shot.length, shot.moves['whole']!.length, shot.moves['twice']!.length, shot.moves['part']!.length]).toEqual(
      [48, 48, 24, 20],
    );
  });
});
