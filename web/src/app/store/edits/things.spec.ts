import { newMove } from '@zippy/core/motion';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../studio';
import { Things } from './things';

let studio: Studio;
let things: Things;
beforeEach(() => {
  studio = openStudio();
  things = TestBed.inject(Things);
});

describe('parts', () => {
  it('are stepped through one after another, round and round, both ways', () => {
    const lit = () => studio.lit();
    things.stepParts(1);
    expect([lit(), studio.primary()!.id]).toEqual(['shell', 'shell']);
    things.stepParts(1);
    things.stepParts(1);
    things.stepParts(1);
    expect(lit()).toBe('shell');
    things.stepParts(-1);
    expect(lit()).toBe('lid');
    things.isolate('lid');
    expect([lit(), studio.isolated()]).toEqual([null, 'lid']);
    things.isolate('lid');
    expect(studio.isolated()).toBeNull();
  });

  it('hide and show all again', () => {
    things.toggleShown('knob');
    things.isolate('lid');
    expect(studio.frameState().parts.map((part) => part.node)).toEqual(['shell', 'lid']);
    things.showAll();
    expect(studio.frameState().parts).toHaveLength(3);
    expect(studio.isolated()).toBeNull();
  });

  it('wear a finish of the shelf, made once however often it is used', () => {
    things.wear(['box'], { name: 'Pine', baseColor: [0, 0.2, 0.1] });
    things.wear(['lid'], { name: 'Pine', baseColor: [0, 0.2, 0.1] });
    const { nodes, finishes } = studio.document();
    expect(Object.values(finishes).filter((finish) => finish.name === 'Pine')).toHaveLength(1);
    expect(nodes['shell']!.finish).toBe(nodes['lid']!.finish);
    expect(nodes['box']!.finish).toBeNull();
  });

  it('get a finish of their own, which those that wore the same go on sharing', () => {
    things.wear(['lid'], 'gold');
    things.wearOwn(['knob', 'lid']);
    const { nodes, finishes } = studio.document();
    expect(nodes['knob']!.finish).not.toBe('gold');
    expect(nodes['knob']!.finish).toBe(nodes['lid']!.finish);
    expect(finishes[nodes['lid']!.finish!]).toEqual({ ...finishes['gold'], id: nodes['lid']!.finish, name: 'Gold 2' });
    studio.undo();
    expect(studio.document().nodes['knob']!.finish).toBe('gold');
  });

  it('are not renamed to nothing', () => {
    things.rename('nodes', 'lid', '  Cover ');
    things.rename('nodes', 'lid', '   ');
    expect(studio.document().nodes['lid']!.name).toBe('Cover');
  });
});

describe('the camera of a kept view', () => {
  it('has the lens of the present one, its focus on what is looked at, and belongs to the shot', () => {
    studio.edit('Lens', (draft) => void Object.assign(draft.cameras['eye']!, { focalLength: 85, locked: true }));
    things.keepView([0, 0, 300], [0, 0, 100]);
    const camera = studio.document().cameras[studio.shot()!.camera!]!;
    expect(camera).toMatchObject({ focalLength: 85, focusDistance: 200, locked: false, position: [0, 0, 300] });
    expect(studio.document().cameras['eye']!.locked).toBe(true);
  });
});

describe('moves', () => {
  it('are copied to the playhead with their distances, and the copies are picked', () => {
    studio.edit('Moves', (draft) => {
      draft.shots['one']!.moves['a'] = { ...newMove('travel', 'nodes/lid', 3, 5), id: 'a' };
      draft.shots['one']!.moves['b'] = { ...newMove('travel', 'nodes/knob', 9, 5), id: 'b' };
    });
    studio.goTo(20);
    studio.selectAll(['a', 'b'].map((id) => ({ kind: 'move', id })));
    things.copyToPlayhead();
    const starts = studio.selection().map(({ id }) => studio.shot()!.moves[id]!.start);
    expect(starts).toEqual([20, 26]);
    expect(Object.keys(studio.shot()!.moves)).toHaveLength(4);
  });
});

describe('deleting', () => {
  it.each([
    ['light', 'key', () => studio.document().lights],
    ['camera', 'eye', () => studio.document().cameras],
    ['shot', 'two', () => studio.document().shots],
    ['finish', 'gold', () => studio.document().finishes],
  ] as const)('a %s takes it away, and undo brings it back', (kind, id, record) => {
    studio.select(kind, id);
    things.deleteSelected();
    expect(id in record()).toBe(false);
    studio.undo();
    expect(id in record()).toBe(true);
  });

  it('a group takes all that is in it', () => {
    studio.select('node', 'box');
    things.deleteSelected();
    expect(Object.keys(studio.document().nodes)).toEqual(['lid']);
  });

  it('a finish leaves its parts bare', () => {
    studio.select('finish', 'gold');
    things.deleteSelected();
    expect(studio.document().nodes['knob']!.finish).toBeNull();
  });

  it('keeps the last shot', () => {
    for (const id of ['one', 'two']) {
      studio.select('shot', id);
      things.deleteSelected();
    }
    expect(Object.keys(studio.document().shots)).toEqual(['two']);
  });

  it('takes picked keys rather than what is selected', () => {
    studio.toggleKeys(['lights/key/power']);
    studio.select('light', 'key');
    studio.pickKeys([{ path: 'lights/key/power', frame: 1 }]);
    things.deleteSelected();
    expect(studio.shot()!.tracks).toEqual({});
    expect(studio.document().lights['key']).toBeDefined();
  });
});
