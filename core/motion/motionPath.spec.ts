import { describe, expect, it } from 'vitest';
import { newDocument, newLight, newNode, newShot, type ProjectDocument } from '../document';
import { evaluateProperties, keyCarried, motionPath, newMove } from './index';
import { gripPlace, type Grip } from '../scene';

const BOX: Grip = { collection: 'nodes', id: 'box' };
const LID: Grip = { collection: 'nodes', id: 'lid' };
const LAMP: Grip = { collection: 'lights', id: 'key' };

function studio(): ProjectDocument {
  const document = structuredClone(newDocument('paths'));
  document.nodes = {
    box: newNode({ id: 'box', turn: [0, Math.PI / 2, 0] }),
    lid: newNode({ id: 'lid', parent: 'box', position: [10, 0, 0], pivot: [0, 5, 0] }),
    other: newNode({ id: 'other' }),
  };
  document.lights = { key: newLight('panel', { id: 'key', parent: 'box', position: [0, 0, 30] }) };
  return document;
}

describe('the path of a thing', () => {
  it('is where the whole document puts it, however it is carried', () => {
    const document = studio();
    const shot = newShot({
      length: 30,
      tracks: { 'nodes/box/position': [{ frame: 1, value: [0, 0, 0], pace: 'ease' }, { frame: 30, value: [90, 0, 0], pace: 'ease' }] }, // prettier-ignore
      moves: { turn: { ...newMove('turntable', 'nodes/box', 1, 30), id: 'turn' } },
    });
    for (const grip of [BOX, LID, LAMP]) {
      const path = motionPath(document, shot, grip)!;
      expect(path.frames).toHaveLength(30);
      for (const frame of [1, 7, 30])
        path.places[frame - 1]!.forEach((v, k) =>
          expect(v).toBeCloseTo(gripPlace(evaluateProperties(document, shot, frame), grip)![k]!, 9),
        );
    }
    expect(motionPath(document, shot, BOX)!.keys.map(({ frame }) => frame)).toEqual([1, 30]);
    expect(motionPath(document, shot, LID)!.keys).toEqual([]);
  });

  it('is none where nothing moves, and none of what is gone', () => {
    const shot = newShot({ length: 30 });
    expect(motionPath(studio(), shot, BOX)).toBeNull();
    expect(motionPath(studio(), shot, { collection: 'cameras', id: 'gone' })).toBeNull();
    const turning = { ...shot, moves: { turn: { ...newMove('turntable', 'nodes/box', 1, 30), id: 'turn' } } };
    // It turns about its own turning point, which stays.
    expect(motionPath(studio(), turning, BOX)).toBeNull();
  });

  it('of a very long shot has no more places than can be drawn', () => {
    const shot = newShot({
      length: 100_000,
      moves: { way: { ...newMove('travel', 'nodes/box', 1, 100_000), id: 'way' } },
    });
    const path = motionPath(studio(), shot, BOX)!;
    expect(path.places.length).toBeLessThanOrEqual(1500);
    expect(path.frames.at(-1)).toBeGreaterThan(99_900);
  });
});

describe('a key that is dragged in the world', () => {
  it('takes the thing just as far there, turned parents and moves or not', () => {
    const document = studio();
    const shot = newShot({
      length: 30,
      tracks: { 'nodes/lid/position': [{ frame: 5, value: [1, 2, 3], pace: 'ease' }, { frame: 20, value: [9, 2, 3], pace: 'ease' }] }, // prettier-ignore
      moves: {
        turn: { ...newMove('turntable', 'nodes/box', 1, 30), id: 'turn' },
        way: { ...newMove('travel', 'nodes/lid', 1, 30), id: 'way' },
      },
    });
    const before = gripPlace(evaluateProperties(document, shot, 20), LID)!;
    const value = keyCarried(document, shot, LID, 20, [4, -5, 6])!;
    const keys = shot.tracks['nodes/lid/position']!.map((key) => (key.frame === 20 ? { ...key, value } : key));
    const after = gripPlace(
      evaluateProperties(document, { ...shot, tracks: { 'nodes/lid/position': keys } }, 20),
      LID,
    )!;
    [4, -5, 6].forEach((by, k) => expect(after[k]! - before[k]!).toBeCloseTo(by, 9));
    expect(keyCarried(document, shot, LID, 6, [1, 1, 1])).toBeNull();
  });
});
