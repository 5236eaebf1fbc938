import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it } from 'vitest';
import { inOrder, newAsset } from '@zippy/core/document';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import { Notices } from '../notices';
import { ReelFilm } from '../reel/reel-film';
import type { Studio } from '../studio';
import { TakesActions } from '../takes/takes.actions';
import { ReelEdits } from './reel-edits';
import { Things } from './things';

let studio: Studio;
let edits: ReelEdits;
let reel: ReelFilm;
const clips = () => inOrder(studio.document().reel.clips);
const shown = () => clips().map(({ from, to }) => [from, to]);

beforeEach(() => {
  studio = openStudio();
  edits = TestBed.inject(ReelEdits);
  reel = TestBed.inject(ReelFilm);
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ last: 40, done: Array.from({ length: 40 }, (_, k) => k + 1) })] })); // prettier-ignore
  edits.addTake('take', 1, 10);
  edits.addTake('take', 11, 20);
  edits.addTake('take', 21, 30);
  studio.openDesk('reel');
});

describe('clips', () => {
  it('change places, one step of undo for all that is dragged', () => {
    const [, , last] = clips();
    for (const place of [1, 0, 0]) edits.move(last!.id, place, 'drag');
    expect(shown()).toEqual([[21, 30], [1, 10], [11, 20]]); // prettier-ignore
    edits.moveBy(last!.id, 50);
    expect(shown().at(-1)).toEqual([21, 30]);
    studio.undo();
    studio.undo();
    expect(shown()).toEqual([[1, 10], [11, 20], [21, 30]]); // prettier-ignore
  });

  it('are split at the playhead, and say where they cannot be', () => {
    reel.goTo(14);
    edits.split();
    expect(shown()).toEqual([[1, 10], [11, 13], [14, 20], [21, 30]]); // prettier-ignore
    expect(studio.primary()!.id).toBe(clips()[2]!.id);
    reel.goTo(1);
    edits.split();
    expect([clips().length, TestBed.inject(Notices).news()]).toEqual([4, expect.stringMatching(/Put the playhead into/)]); // prettier-ignore
  });

  it('begin and end at the playhead', () => {
    reel.goTo(13);
    edits.trimTo('start');
    expect([shown()[1], reel.frame()]).toEqual([[13, 20], 11]);
    reel.goTo(14);
    edits.trimTo('end');
    expect(shown()[1]).toEqual([13, 16]);
  });

  it('are doubled behind their own, and deleted', () => {
    studio.select('clip', clips()[0]!.id);
    edits.duplicate();
    expect(shown()).toEqual([[1, 10], [1, 10], [11, 20], [21, 30]]); // prettier-ignore
    expect(studio.primary()!.id).toBe(clips()[1]!.id);
    TestBed.inject(Things).deleteSelected();
    expect(shown()).toHaveLength(3);
  });

  it('that are read from an edit list take the place of all, in one step', () => {
    edits.takeOver({ clips: [], titles: [], notes: [] });
    expect(clips()).toEqual([]);
    studio.undo();
    expect(clips()).toHaveLength(3);
  });
});

describe('titles', () => {
  it('begin at the playhead; their values get keys on frames of the film', () => {
    reel.goTo(5);
    edits.addTitle();
    const { id } = studio.primary()!;
    const path = `reel/titles/${id}/x`;
    studio.toggleKeys([path]);
    reel.goTo(15);
    studio.setProperty('Across', path, 1);
    expect(studio.document().reel.tracks[path]).toMatchObject([
      { frame: 5, value: 0.5 },
      { frame: 15, value: 1 },
    ]);
    expect(studio.valueOnReel(path, 15)).toBe(1);
    expect(studio.valueOnReel(path, 10)).toBeCloseTo(0.75);
    // The shot knows nothing of it.
    expect(studio.shot()!.tracks).toEqual({});
    edits.duplicate();
    expect(Object.keys(studio.document().reel.tracks)).toHaveLength(2);
    TestBed.inject(Things).deleteSelected();
    studio.pickKeys([{ path, frame: 5 }]);
    TestBed.inject(Things).deleteSelected();
    expect(studio.document().reel.tracks[path]).toHaveLength(1);
    studio.select('title', id);
    TestBed.inject(Things).deleteSelected();
    expect([studio.document().reel.titles, studio.document().reel.tracks]).toEqual([{}, {}]);
  });

  it('record changes as keys of the film while that is switched on', () => {
    edits.addTitle();
    const path = `reel/titles/${studio.primary()!.id}/size`;
    studio.record(true);
    reel.goTo(9);
    studio.setProperty('Size', path, 0.2);
    expect(studio.document().reel.tracks[path]).toMatchObject([{ frame: 9, value: 0.2 }]);
  });
});

describe('sounds', () => {
  it('lie under the film with their file', () => {
    const hash = 'a'.repeat(64);
    edits.addSound(newAsset({ id: 's', name: 'Song', kind: 'sound', hash, sound: { seconds: 3, loudness: hash } }));
    expect(Object.values(studio.document().reel.sounds)).toMatchObject([{ asset: 's', start: 1, name: 'Song' }]);
    studio.undo();
    expect([studio.document().reel.sounds, studio.document().assets['s']]).toEqual([{}, undefined]);
  });
});

describe('the playhead of the film', () => {
  it('stays within it, and is another one than that of the shot', () => {
    reel.goTo(500);
    expect([reel.frame(), studio.frame()]).toEqual([30, 1]);
    reel.goTo(-3);
    expect(reel.frame()).toBe(1);
  });

  it('is what the picture shows on the reel’s desk, until another picture is asked for', () => {
    expect(reel.shown()).toBe(true);
    studio.showGrade('sketch');
    expect(reel.shown()).toBe(false);
    reel.show();
    expect(reel.shown()).toBe(true);
    studio.openDesk('lights');
    expect([reel.shown(), reel.open()]).toEqual([false, false]);
  });
});
