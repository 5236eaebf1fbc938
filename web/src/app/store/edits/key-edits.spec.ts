import { describe, expect, it } from 'vitest';
import { newShot, type Key, type Shot } from '@zippy/core/document';
import { trackValue } from '@zippy/core/motion';
import { alignKeys, mirrorKeys, raiseKeys, reverseKeys, spaceKeys, stretchKeys, thinKeys } from './key-edits';

const PATH = 'lights/key/power';
const key = (frame: number, value: number, pace: Key['pace'] = 'linear'): Key => ({ frame, value, pace });
const shotOf = (...keys: Key[]): Shot => newShot({ tracks: { [PATH]: keys } });
const marks = (...frames: number[]) => frames.map((frame) => ({ path: PATH, frame }));
const frames = (shot: Shot) => shot.tracks[PATH]!.map(({ frame }) => frame);
const at = (shot: Shot, frame: number) => trackValue(shot.tracks[PATH]!, frame, 'number') as number;

describe('keys together', () => {
  it('are stretched about a frame and back to what they were', () => {
    const shot = shotOf(key(10, 1), key(13, 2), key(20, 3), key(50, 4));
    expect(stretchKeys(shot, marks(10, 13, 20), 10, 3).map(({ frame }) => frame)).toEqual([10, 19, 40]);
    stretchKeys(shot, marks(10, 19, 40), 10, 1 / 3);
    expect(frames(shot)).toEqual([10, 13, 20, 50]);
  });

  it('run backwards as they ran, at every frame', () => {
    const paces: Key['pace'][] = [
      'ease-in',
      { curve: [0.2, 0.1, 0.5, 1.3] },
      'linear',
      { overshoot: { way: 'after', amount: 0.2 } },
    ];
    const shot = shotOf(...paces.map((pace, k) => key(10 + 10 * k, (k * 7) % 5, pace)), key(50, 9));
    const before = structuredClone(shot);
    reverseKeys(shot, marks(10, 20, 30, 40, 50));
    for (let frame = 10; frame <= 50; frame += 0.5) expect(at(shot, frame)).toBeCloseTo(at(before, 60 - frame), 9);
  });

  it('go there and the same way back', () => {
    const shot = shotOf(key(10, 0, 'ease-in'), key(30, 8, 'ease'));
    expect(mirrorKeys(shot, marks(10, 30)).map(({ frame }) => frame)).toEqual([10, 30, 50]);
    for (const frame of [12, 20, 29]) expect(at(shot, frame)).toBeCloseTo(at(shot, 60 - frame), 9);
  });

  it('stand as far apart as one says, or evenly, each lane for itself', () => {
    const shot = shotOf(key(10, 1), key(11, 2), key(40, 3));
    spaceKeys(shot, marks(10, 11, 40), null);
    expect(frames(shot)).toEqual([10, 25, 40]);
    spaceKeys(shot, marks(10, 25, 40), 4);
    expect(frames(shot)).toEqual([10, 14, 18]);
    alignKeys(shot, marks(14, 18), 30);
    expect(frames(shot)).toEqual([10, 30, 34]);
  });

  it('that meet others take their place', () => {
    const shot = shotOf(key(10, 1), key(20, 2), key(30, 3));
    alignKeys(shot, marks(10), 20);
    expect(shot.tracks[PATH]).toEqual([key(20, 1), key(30, 3)]);
  });

  it('become fewer while the way stays', () => {
    const wave = Array.from({ length: 97 }, (_, k) => key(1 + k, Math.sin((k / 96) * 2 * Math.PI) * 100));
    const shot = shotOf(...wave);
    const before = structuredClone(shot);
    thinKeys(shot, marks(...wave.map(({ frame }) => frame)));
    expect(frames(shot).length).toBeLessThan(30);
    for (let frame = 1; frame <= 97; frame++)
      expect(Math.abs(at(shot, frame) - at(before, frame))).toBeLessThanOrEqual(2 + 1e-9);
    const held = shotOf(key(1, 5, 'held'), key(5, 5, 'held'), key(9, 6));
    thinKeys(held, marks(1, 5, 9));
    expect(frames(held)).toEqual([1, 5, 9]);
  });

  it('rise together, each within what it can have', () => {
    const shot = shotOf(key(1, 5), key(9, 1));
    raiseKeys(shot, marks(1, 9), -3, null, (_, value) => Math.max(0, value as number));
    expect(shot.tracks[PATH]!.map(({ value }) => value)).toEqual([2, 0]);
  });
});
