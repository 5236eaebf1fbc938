import { newMove } from '@zippy/core/motion';
import { newShot, type Key, type Shot } from '@zippy/core/document';
import { beforeEach, describe, expect, it } from 'vitest';
import { copyKeys, copyMoves, deleteKeys, paceKeys, shiftKeys, shiftMoves, stretchMove } from './strip-edits';

const key = (frame: number, value = frame): Key => ({ frame, value, pace: 'ease' });
let shot: Shot;
const frames = (path: string) => shot.tracks[path]?.map((each) => [each.frame, each.value]);

beforeEach(() => {
  shot = newShot({
    tracks: { a: [key(1), key(10), key(20)], b: [key(10), key(12)] },
    moves: {
      m: { ...newMove('travel', 'nodes/x', 5, 10), id: 'm', repeat: 2 },
      n: { ...newMove('travel', 'nodes/y', 8, 10), id: 'n' },
    },
  });
});

describe('keys', () => {
  it('shift together and stay in order', () => {
    const marks = shiftKeys(
      shot,
      [
        { path: 'a', frame: 1 },
        { path: 'b', frame: 10 },
      ],
      14,
    );
    expect(marks).toEqual([
      { path: 'a', frame: 15 },
      { path: 'b', frame: 24 },
    ]);
    expect(frames('a')).toEqual([
      [10, 10],
      [15, 1],
      [20, 20],
    ]);
    expect(frames('b')).toEqual([
      [12, 12],
      [24, 10],
    ]);
  });

  it('that land on another one take its place', () => {
    shiftKeys(shot, [{ path: 'a', frame: 10 }], 10);
    expect(frames('a')).toEqual([
      [1, 1],
      [20, 10],
    ]);
  });

  it('that pass over each other in one group keep all of it', () => {
    shiftKeys(
      shot,
      [
        { path: 'b', frame: 10 },
        { path: 'b', frame: 12 },
      ],
      2,
    );
    expect(frames('b')).toEqual([
      [12, 10],
      [14, 12],
    ]);
  });

  it('copy to a frame with their distances', () => {
    const marks = copyKeys(
      shot,
      [
        { path: 'a', frame: 10 },
        { path: 'b', frame: 12 },
      ],
      30,
    );
    expect(marks).toEqual([
      { path: 'a', frame: 30 },
      { path: 'b', frame: 32 },
    ]);
    expect(frames('a')).toEqual([
      [1, 1],
      [10, 10],
      [20, 20],
      [30, 10],
    ]);
    shot.tracks['a']![3]!.value = 99;
    expect(shot.tracks['a']![1]!.value).toBe(10);
  });

  it('are deleted, an empty track with them', () => {
    deleteKeys(shot, [
      { path: 'b', frame: 10 },
      { path: 'b', frame: 12 },
      { path: 'gone', frame: 1 },
    ]);
    expect(Object.keys(shot.tracks)).toEqual(['a']);
  });

  it('take a pace, a curve too', () => {
    paceKeys(shot, [{ path: 'a', frame: 10 }], { curve: [0.2, 0, 0.8, 1] });
    expect(shot.tracks['a']!.map((each) => typeof each.pace)).toEqual(['string', 'object', 'string']);
  });
});

describe('moves', () => {
  it('shift from where they stood, however often the drag is told', () => {
    const starts = new Map([
      ['m', 5],
      ['n', 8],
      ['gone', 1],
    ]);
    shiftMoves(shot, starts, 3);
    shiftMoves(shot, starts, 4);
    expect([shot.moves['m']!.start, shot.moves['n']!.start]).toEqual([9, 12]);
  });

  it('stretch by the end of the whole block, shared by its repeats, and never to nothing', () => {
    stretchMove(shot, 'm', 10, 6);
    expect(shot.moves['m']!.length).toBe(13);
    stretchMove(shot, 'n', 10, -50);
    expect(shot.moves['n']!.length).toBe(1);
  });

  it('copy so that the first begins on the frame', () => {
    const [first, second] = copyMoves(shot, ['m', 'n'], 40);
    expect([shot.moves[first!]!.start, shot.moves[second!]!.start]).toEqual([40, 43]);
    expect(shot.moves[first!]).toMatchObject({ id: first, target: 'nodes/x', repeat: 2 });
    expect(copyMoves(shot, ['gone'], 3)).toEqual([]);
  });
});
