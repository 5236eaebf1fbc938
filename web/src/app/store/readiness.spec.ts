import { newMove } from '@zippy/core/motion';
import { newClip, type ProjectDocument } from '@zippy/core/document';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import { Readiness } from './readiness';
import type { Studio } from './studio';

let studio: Studio;
const texts = () =>
  TestBed.inject(Readiness)
    .warnings()
    .map((warning) => warning.text);
const change = (recipe: (draft: ProjectDocument) => void) => studio.edit('change', recipe);

beforeEach(() => {
  studio = openStudio();
  change((draft) => {
    for (const node of Object.values(draft.nodes)) if (node.mesh) node.finish = 'gold';
  });
});

describe('readiness', () => {
  it('has nothing to say of a sound project', () => expect(texts()).toEqual([]));

  it('counts parts without a finish, and leads to them', () => {
    change((draft) => void (draft.nodes['lid']!.finish = null));
    expect(texts()).toEqual(['1 part has no finish']);
    TestBed.inject(Readiness).of('finish')[0]!.show();
    expect([studio.desk(), studio.primary()!.id]).toEqual(['finish', 'lid']);
  });

  it('notices that nothing gives light', () => {
    change((draft) => {
      for (const light of Object.values(draft.lights)) light.on = false;
      draft.set.surroundings.brightness = 0;
    });
    expect(texts()).toEqual(['Nothing gives light']);
  });

  it('notices a shot without a camera', () => {
    change((draft) => void (draft.shots['two']!.camera = null));
    expect(texts()).toEqual(['"Two" has no camera']);
    TestBed.inject(Readiness).warnings()[0]!.show();
    expect(studio.shotId()).toBe('two');
  });

  it('notices a turntable whose loop jumps, and a move that never begins', () => {
    const add = (over: object) =>
      change((draft) => {
        const move = { ...newMove('turntable', 'nodes/box', 1, 48), ...over };
        draft.shots['one']!.moves[move.id] = move;
      });
    add({ turns: 1 });
    expect(texts()).toEqual([]);
    add({ turns: 0.75 });
    add({ start: 60, name: 'Late' });
    expect(texts()).toEqual(['"Late" begins after the end of "One"', expect.stringMatching(/jumps where it loops/)]);
  });

  it('notices a take on the reel that is gone', () => {
    change((draft) => {
      draft.reel.clips['c'] = newClip({ kind: 'take', take: 't' }, { id: 'c', to: 2 });
    });
    expect(texts()).toEqual(['A take on the reel is gone']);
  });
});
