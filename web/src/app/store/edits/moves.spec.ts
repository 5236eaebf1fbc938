import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { copyOf, type Move, type MoveKind } from '@zippy/core/document';
import { MOVE_KINDS } from '@zippy/core/motion';
import { openStudio } from '../../../testing/studioBed';
import { MOVE_STARTS } from '../../kinds/moves';
import { SceneBounds } from '../scene-bounds';
import type { Studio } from '../studio';
import type { Selected } from '../view/view.state';
import { Moves } from './moves';
import { Routes } from './routes';

let studio: Studio;
let moves: Moves;
const made = (): Move[] => Object.values(studio.shot()!.moves);
const start = (title: string) => MOVE_STARTS.find((each) => each.start.title === title)!;
const begin = (title: string) => moves.begin(start(title).kind, start(title).start);

beforeEach(() => {
  localStorage.clear();
  studio = openStudio();
  moves = TestBed.inject(Moves);
  const box = { low: [-10, 0, -10] as const, high: [10, 20, 10] as const };
  const meshes = studio.frameState().parts.map(({ mesh }) => mesh);
  TestBed.inject(SceneBounds).meshes.set(
    new Map(
      meshes.map(
        (mesh) =>
          ['asset' in mesh ? `${mesh.asset}/${mesh.index}` : '', { low: [...box.low], high: [...box.high] }] as never,
      ),
    ),
  );
});

describe('a new move', () => {
  const selected: Selected[] = [
    { kind: 'node', id: 'box' },
    { kind: 'node', id: 'lid' },
    { kind: 'light', id: 'key' },
    { kind: 'camera', id: 'eye' },
    { kind: 'finish', id: 'gold' },
  ];
  for (const kind of Object.keys(MOVE_KINDS) as MoveKind[])
    for (const each of selected)
      it(`of kind ${kind} is put on ${each.kind} ${each.id} wherever it is offered`, () => {
        studio.selectAll([each]);
        const targets = moves.targets(kind);
        moves.put(kind, targets);
        expect(made().map(({ target }) => target)).toEqual(targets);
        expect(studio.frameState().parts).toHaveLength(3);
      });

  it('fills the shot or begins at the playhead, by one rule that is remembered', () => {
    studio.goTo(40);
    moves.put('turntable', ['nodes/box']);
    moves.setTime('playhead');
    moves.put('blink', ['lights/key/power']);
    studio.goTo(48);
    moves.put('tick', ['nodes/lid']);
    expect(made().map(({ start: from, length }) => [from, length])).toEqual([
      [1, 48],
      [40, 9],
      [1, 48],
    ]);
    expect(localStorage.getItem('zippy.new-moves')).toBe('playhead');
  });

  it('of one kind begins in several ways', () => {
    studio.select('node', 'lid');
    begin('Drop');
    begin('Close');
    expect(made()).toMatchObject([
      { kind: 'travel', name: 'Drop', to: [0, 0, 0], pace: { bounce: { count: 3 } } },
      { kind: 'hinge', name: 'Close', to: 0 },
    ]);
    studio.select('light', 'key');
    begin('Fade out');
    const { power } = studio.document().lights['key']!;
    expect(made().at(-1)).toMatchObject({ kind: 'ramp', from: power, to: 0 });
  });

  it('on several parts is on none that another carries, and turns them about their common middle', () => {
    studio.edit('Apart', (draft) => void (draft.nodes['lid']!.position = [100, 0, 0]));
    studio.selectAll(['box', 'knob', 'lid'].map((id) => ({ kind: 'node', id })));
    begin('Turntable');
    expect(made().map(({ target }) => target)).toEqual(['nodes/box', 'nodes/lid']);
  });

  it('can be put where the one before is without selecting that again', () => {
    studio.select('light', 'key');
    begin('Blink');
    begin('Colours');
    begin('Switch');
    expect(made().map(({ target }) => target)).toEqual(['lights/key/power', 'lights/key/tint', 'lights/key/on']);
    expect(studio.selection()).toHaveLength(1);
  });

  it('stays within what its value can be, and is as bright as it is now', () => {
    const focal = start('Fade out');
    moves.put(focal.kind, ['cameras/eye/focalLength'], focal.start);
    const { focalLength } = studio.document().cameras['eye']!;
    expect(made()[0]).toMatchObject({ from: focalLength, to: 4 });
    moves.put('blink', ['lights/key/power']);
    expect(made()[1]).toMatchObject({ low: 0, high: studio.document().lights['key']!.power });
  });

  it('goes on any value that its kind can set, from the field of it', () => {
    const titles = (path: string) => moves.kindsFor(path).map(({ start: { title } }) => title);
    expect(titles('cameras/eye/fStop')).toEqual([
      'Fade in',
      'Fade out',
      'Colours',
      'Blink',
      'Breathe',
      'Flicker',
      'Switch',
      'Pattern',
    ]);
    expect(titles('lights/key/on')).toEqual(['Switch', 'Pattern']);
    expect(titles('nodes/lid/turn')).toEqual(['Fade in', 'Fade out']);
    expect(titles('cameras/eye/locked')).toEqual([]);
    expect(titles('cameras/eye/projection')).toEqual(['Switch', 'Pattern']);
  });
});

describe('a route', () => {
  it('goes through several cameras that are selected, and takes further views', () => {
    studio.edit('Second', (draft) => {
      draft.cameras['second'] = {
        ...copyOf(draft.cameras['eye']!),
        id: 'second',
        name: 'Second',
        position: [9, 9, 900],
        focalLength: 90,
      };
    });
    studio.selectAll(['eye', 'second'].map((id) => ({ kind: 'camera', id })));
    begin('Route');
    const routes = TestBed.inject(Routes);
    const [route] = made();
    expect(route).toMatchObject({
      kind: 'route',
      target: 'cameras/eye',
      stations: [{}, { position: [9, 9, 900], focalLength: 90 }],
    });
    expect(routes.onRoute('eye')).toBe(true);
    routes.putStation(route!.id, { position: [0, 0, 400], target: [0, 0, 100] });
    routes.putStation(route!.id, { position: [1, 2, 3], target: [0, 0, 0] }, 0);
    expect(studio.shot()!.moves[route!.id]).toMatchObject({
      stations: [{ position: [1, 2, 3] }, {}, { position: [0, 0, 400], focusDistance: 300, focalLength: 90 }],
    });
    expect(routes.frameOfStation(studio.shot()!.moves[route!.id]!, 0)).toBe(1);
    expect(routes.frameOfStation(studio.shot()!.moves[route!.id]!, 2)).toBe(48);
  });
});

describe('moves that are there', () => {
  const three = () => {
    studio.edit('Apart', (draft) => {
      for (const [k, id] of ['lid', 'knob', 'shell'].entries()) draft.nodes[id]!.position = [100 * k, 0, 0];
    });
    moves.put('turntable', ['nodes/knob', 'nodes/shell', 'nodes/lid']);
    return made().map(({ id }) => id);
  };

  it('begin one after the other, in the order they were picked or that of their places', () => {
    const ids = three();
    const starts = () => ids.map((id) => studio.shot()!.moves[id]!.start);
    moves.stagger(ids, 5, 'picked');
    expect(starts()).toEqual([1, 6, 11]);
    moves.stagger(ids, 2, 'x');
    expect(starts()).toEqual([3, 5, 1]);
    moves.stagger(ids, 3, 'random');
    expect(starts().sort((a, b) => a - b)).toEqual([1, 4, 7]);
  });

  it('are muted together, unfolded into keys, and undone in one step each', () => {
    const ids = three();
    moves.mute(ids);
    expect(made().every(({ muted }) => muted)).toBe(true);
    moves.mute(ids);
    moves.unfold(ids);
    expect(made()).toEqual([]);
    const turned = Object.keys(studio.shot()!.tracks).filter((path) => path.endsWith('/turn'));
    expect(turned.sort()).toEqual(['knob', 'lid', 'shell'].map((id) => `nodes/${id}/turn`));
    studio.undo();
    expect(made()).toHaveLength(3);
  });

  it('can be put on another thing, where they can act on that', () => {
    studio.select('node', 'lid');
    begin('Tick');
    const [move] = made();
    moves.retarget([move!.id], { kind: 'node', id: 'box' });
    expect(made()[0]!.target).toBe('nodes/box');
    moves.retarget([move!.id], { kind: 'light', id: 'key' });
    expect(made()[0]!.target).toBe('nodes/box');
    // Of a property it is the same one.
    moves.put('ramp', ['lights/key/kelvin']);
    moves.retarget([made()[1]!.id], { kind: 'light', id: 'lamp' });
    expect(made()[1]!.target).toBe('lights/lamp/kelvin');
  });
});
