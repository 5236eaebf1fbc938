import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { newLight, newNode } from '@zippy/core/document';
import { newMove } from '@zippy/core/motion';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../../store/studio';
import type { GripDrag } from './grip-drag';
import { GripHold } from './grip-hold';

let studio: Studio;
let hold: GripHold;
const dragged = (over: Partial<GripDrag>): GripDrag => ({
  by: [0, 0, 0],
  turn: [0, 0, 0, 1],
  size: [1, 1, 1],
  axis: 'X',
  axes: [0, 0, 0, 1],
  step: null,
  ...over,
});
const press = (key: string) => hold.press(new KeyboardEvent('keydown', { key }));
const place = (id: string) => studio.document().nodes[id]!.position;

beforeEach(() => {
  studio = openStudio();
  hold = TestBed.inject(GripHold);
  studio.edit('Build', (draft) => {
    draft.nodes['box'] = newNode({ id: 'box' });
    draft.nodes['lid'] = newNode({ id: 'lid', parent: 'box' });
    draft.nodes['stand'] = newNode({ id: 'stand', position: [100, 0, 0] });
    draft.lights['key'] = newLight('panel', {
      id: 'key',
      position: [0, 0, 0],
      target: [0, 0, -9],
      width: 30,
      height: 20,
    });
    draft.lights['hung'] = newLight('bulb', { id: 'hung', parent: 'lid', position: [0, 5, 0] });
  });
  studio.lookThroughCamera(false);
});

describe('handles in the picture', () => {
  it('carry all that is selected as one step, and what hangs on it but once', () => {
    studio.selectAll(
      (['node/lid', 'node/box', 'light/hung', 'light/key', 'node/stand'] as const).map((each) => {
        const [kind, id] = each.split('/') as ['node' | 'light', string];
        return { kind, id };
      }),
    );
    hold.drag('taken');
    hold.drag(dragged({ by: [3, 0, 0] }));
    hold.drag(dragged({ by: [7, 0, 0] }));
    hold.drag('dropped');
    expect([place('box'), place('lid'), place('stand')]).toEqual([[7, 0, 0], [0, 0, 0], [107, 0, 0]]); // prettier-ignore
    expect(studio.document().lights['key']!.position).toEqual([7, 0, 0]);
    expect(studio.document().lights['hung']!.position).toEqual([0, 5, 0]);
    studio.undo();
    expect([place('box'), place('stand')]).toEqual([[0, 0, 0], [100, 0, 0]]); // prettier-ignore
  });

  it('of a travel that is selected drag where it ends, or on its first frame where it begins', () => {
    studio.edit('Travel', (draft) => {
      draft.nodes['box']!.turn = [0, Math.PI / 2, 0];
      draft.shots['one']!.moves['m'] = { ...newMove('travel', 'nodes/lid', 5, 20), id: 'm' };
    });
    studio.select('move', 'm');
    const ends = () => {
      const move = studio.shot()!.moves['m']!;
      return move.kind === 'travel' ? [move.from, move.to].map((end) => end.map((v) => Math.round(v) + 0)) : [];
    };
    studio.goTo(24);
    expect(hold.grip()).toEqual({ collection: 'nodes', id: 'lid' });
    hold.drag('taken');
    hold.drag(dragged({ by: [4, 0, 0] }));
    hold.drag(dragged({ by: [9, 0, 0] }));
    hold.drag('dropped');
    // In the space of the box, which is turned: the place of the lid itself stays.
    expect(ends()).toEqual([[0, 0, 0], [0, 50, 9]]); // prettier-ignore
    expect(place('lid')).toEqual([0, 0, 0]);
    studio.goTo(2);
    hold.drag('taken');
    hold.drag(dragged({ by: [0, 7, 0] }));
    hold.drag('dropped');
    expect(ends()).toEqual([[0, 7, 0], [0, 50, 9]]); // prettier-ignore
    studio.undo();
    studio.undo();
    expect(ends()).toEqual([[0, 0, 0], [0, 50, 0]]); // prettier-ignore
  });

  it('take numbers that are typed while they are dragged, and are taken back by Escape', () => {
    studio.select('node', 'box');
    expect(press('5')).toBe(false);
    hold.drag('taken');
    hold.drag(dragged({ by: [3.3, 0, 0] }));
    expect(['1', '2', '.', '5'].map(press)).toEqual([true, true, true, true]);
    expect(place('box')).toEqual([12.5, 0, 0]);
    expect(hold.said()).toBe('12.5 mm along X · typed 12.5');
    hold.drag(dragged({ by: [4, 0, 0] }));
    expect(place('box')).toEqual([12.5, 0, 0]);
    press('Escape');
    expect(place('box')).toEqual([0, 0, 0]);
    // What is left of the drag changes nothing more.
    hold.drag(dragged({ by: [50, 0, 0] }));
    expect(place('box')).toEqual([0, 0, 0]);
    expect(hold.said()).toBeNull();
  });

  it('size nodes and lamps along their own axes, and move what has no size', () => {
    hold.switchMode('size');
    studio.select('light', 'key');
    expect(hold.mode()).toBe('size');
    hold.drag('taken');
    hold.drag(dragged({ size: [2, 1, 1] }));
    hold.drag('dropped');
    expect(studio.document().lights['key']).toMatchObject({ width: 60, height: 20 });
    studio.select('camera', Object.keys(studio.document().cameras)[0]!);
    expect(hold.mode()).toBe('move');
  });

  it('leave a locked camera alone', () => {
    const id = Object.keys(studio.document().cameras)[0]!;
    studio.select('camera', id);
    expect(hold.grip()).toEqual({ collection: 'cameras', id });
    studio.setProperty('Lock', `cameras/${id}/locked`, true);
    expect(hold.grip()).toBeNull();
  });
});
