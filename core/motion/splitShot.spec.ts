import { describe, expect, it } from 'vitest';
import { newCamera, newDocument, newNode, newShot, type Move } from '../document';
import { evaluate, newMove, resizeShot, splitShot } from './index';

const document = newDocument('Split');
document.nodes = { part: newNode({ id: 'part', kind: 'part', mesh: { asset: 'a'.repeat(64), index: 0 } }) };
document.cameras = { eye: newCamera({ id: 'eye' }) };
const shot = newShot({
  id: 's',
  length: 60,
  camera: 'eye',
  range: [10, 50],
  tracks: { 'cameras/eye/focalLength': [{ frame: 5, value: 40, pace: 'ease' }, { frame: 55, value: 90, pace: 'linear' }] },
  moves: {
    turn: { ...newMove('turntable', 'nodes/part', 1, 60), id: 'turn' } as Move,
    rise: { ...newMove('travel', 'nodes/part', 30, 12), id: 'rise' } as Move,
  },
  markers: { a: { id: 'a', frame: 8, note: 'A' }, b: { id: 'b', frame: 40, note: 'B' } },
}); // prettier-ignore
const seen = (of: typeof shot, frame: number) => {
  const { parts, camera } = evaluate({ ...document, shots: { [of.id]: of } }, of, frame);
  return {
    transform: parts[0]!.transform.map((v) => expect.closeTo(v, 9)),
    focal: expect.closeTo(camera!.focalLength, 9),
  };
};
const plain = (of: typeof shot, frame: number) => {
  const { parts, camera } = evaluate({ ...document, shots: { [of.id]: of } }, of, frame);
  return { transform: [...parts[0]!.transform], focal: camera!.focalLength };
};

describe('a shot that is cut in two', () => {
  it('goes on in the second part as it was, with its markers and ends', () => {
    const [first, second] = splitShot(shot, 25, 'other');
    expect([first.length, second.length]).toEqual([24, 36]);
    for (let frame = 1; frame <= 60; frame++)
      expect(frame < 25 ? plain(first, frame) : plain(second, frame - 24)).toEqual(seen(shot, frame));
    expect([first.range, second.range]).toEqual([[10, 24], [1, 26]]); // prettier-ignore
    expect([Object.values(first.markers), Object.values(second.markers)]).toEqual([
      [{ id: 'a', frame: 8, note: 'A' }],
      [{ id: 'b', frame: 16, note: 'B' }],
    ]);
    expect(Object.keys(second.moves)).not.toContain('turn');
  });

  it('is not cut outside of itself', () => {
    for (const frame of [1, 0, 61]) expect(() => splitShot(shot, frame, 'x')).toThrow(RangeError);
  });
});

describe('a shot of another length', () => {
  it('takes its motion along where that is wanted', () => {
    const longer = structuredClone(shot);
    resizeShot(longer, 120, true);
    expect(longer.length).toBe(120);
    for (const frame of [1, 11, 31, 60])
      expect(plain(longer, 2 * frame - 1).focal).toBeCloseTo(plain(shot, frame).focal, 0);
    expect(longer.moves['turn']).toMatchObject({ start: 1, length: 120 });
    expect(longer.moves['rise']).toMatchObject({ start: 59, length: 24 });
    const same = structuredClone(shot);
    resizeShot(same, 120);
    expect(same.tracks).toEqual(shot.tracks);
  });
});
