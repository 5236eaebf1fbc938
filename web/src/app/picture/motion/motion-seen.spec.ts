import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../../store/studio';
import { MotionSeen } from './motion-seen';

let studio: Studio;
let motion: MotionSeen;
const path = 'nodes/lid/position';
const keys = () => studio.shot()!.tracks[path]!;

beforeEach(() => {
  localStorage.clear();
  studio = openStudio();
  motion = TestBed.inject(MotionSeen);
  studio.edit('Build', (draft) => {
    draft.shots[studio.shotId()!]!.tracks[path] = [
      { frame: 1, value: [0, 0, 0], pace: 'linear' },
      { frame: 21, value: [200, 0, 0], pace: 'linear' },
    ];
  });
  studio.openDesk('motion');
  studio.select('node', 'lid');
});

describe('motion seen in the picture', () => {
  it('is the path of what is selected, and none of what stays', () => {
    expect(motion.seen().path!.keys.map(({ frame, place }) => [frame, place[0]])).toEqual([[1, 0], [21, 200]]); // prettier-ignore
    expect(motion.seen().path!.places).toHaveLength(studio.shot()!.length);
    studio.openDesk('finish');
    expect(motion.seen().path).toBeNull();
    studio.openDesk('motion');
    studio.selectAll([]);
    expect(motion.seen().path).toBeNull();
  });

  it('lets a key be drawn elsewhere, as one step of undo', () => {
    motion.take(21);
    motion.drag([0, 5, 0]);
    motion.drag([0, 10, 0]);
    motion.drop();
    expect(keys()[1]!.value).toEqual([200, 10, 0]);
    expect(keys()[0]!.value).toEqual([0, 0, 0]);
    studio.undo();
    expect(keys()[1]!.value).toEqual([200, 0, 0]);
  });

  it('shows ghosts only where they are asked for, inside the shot, and elsewhere than now', () => {
    studio.goTo(3);
    expect(motion.seen().after).toEqual([]);
    motion.ghosts.set('close');
    const x = (side: 'before' | 'after') => motion.seen()[side].map(({ part }) => part!.transform[3]);
    expect(x('after')).toEqual([40, 60]);
    expect(x('before')).toEqual([0]);
    studio.goTo(studio.shot()!.length);
    // Behind the last key it stands still.
    expect(x('before')).toEqual([]);
  });
});
