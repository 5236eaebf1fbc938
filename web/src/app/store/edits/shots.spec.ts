import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { shotsInOrder, type Move } from '@zippy/core/document';
import { findSeamFaults, newMove } from '@zippy/core/motion';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../studio';
import { Shots } from './shots';

let studio: Studio;
let shots: Shots;
const names = () => shotsInOrder(studio.document()).map(({ name, length }) => `${name} ${length}`);

beforeEach(() => {
  studio = openStudio();
  shots = TestBed.inject(Shots);
});

describe('shots', () => {
  it('are split at the playhead, the second part behind the first, and put together by undo', () => {
    studio.goTo(21);
    shots.split();
    expect(names()).toEqual(['One 20', 'One 2 28', 'Two 24']);
    expect([studio.shot()!.name, studio.frame()]).toEqual(['One 2', 1]);
    studio.undo();
    expect(names()).toEqual(['One 48', 'Two 24']);
    studio.openShot('one', 1);
    shots.split();
    expect(names()).toEqual(['One 48', 'Two 24']);
  });

  it('change places, and are left out of the film and taken in again together', () => {
    shots.reorder(1, 0);
    expect(names()).toEqual(['Two 24', 'One 48']);
    shots.include(['one', 'two']);
    expect(Object.values(studio.document().shots).map(({ included }) => included)).toEqual([false, false]);
    shots.include(['one', 'two']);
    expect(Object.values(studio.document().shots).map(({ included }) => included)).toEqual([true, true]);
  });

  it('are made to loop in one step', () => {
    studio.edit('Turn', (draft) => {
      draft.shots['one']!.moves['t'] = { ...newMove('turntable', 'nodes/box', 1, 48), id: 't', turns: 1.4 } as Move;
    });
    shots.mendLoop();
    expect(findSeamFaults(studio.document(), studio.shot()!)).toEqual([]);
    studio.undo();
    expect(studio.shot()!.moves['t']).toMatchObject({ turns: 1.4 });
  });
});
