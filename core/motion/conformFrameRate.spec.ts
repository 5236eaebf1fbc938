import { describe, expect, it } from 'vitest';
import { documentSchema, newClip, newDocument, newNode, newTitle, type Key, type ProjectDocument } from '../document';
import { conformFrameRate, evaluate, newMove, rateOf } from './index';

const key = (frame: number, value: number): Key => ({ frame, value, pace: 'linear' });

function film(): ProjectDocument {
  const document = structuredClone(newDocument('Rates'));
  document.nodes['n'] = newNode({ id: 'n', name: 'Body', kind: 'part', mesh: { asset: 'a'.repeat(64), index: 0 } });
  const shot = Object.values(document.shots)[0]!;
  shot.length = 96;
  shot.range = [1, 49];
  shot.tracks['nodes/n/glow'] = [key(1, 0), key(49, 10), key(96, 0)];
  const turn = { ...newMove('turntable', 'nodes/n', 1, 32), repeat: 3 };
  const travel = newMove('travel', 'nodes/n', 25, 24);
  shot.moves = { [turn.id]: turn, [travel.id]: travel };
  document.reel.clips = {
    c: newClip({ kind: 'take', take: 't' }, { id: 'c', to: 96 }),
    filmed: newClip({ kind: 'footage', asset: 'f' }, { id: 'filmed', to: 96, change: 'fade', changeFrames: 24 }),
  };
  document.reel.titles['title'] = newTitle({ id: 'title', start: 25, length: 48 });
  return document;
}
const shotOf = (document: ProjectDocument) => Object.values(document.shots)[0]!;

describe('another frame rate', () => {
  it('leaves everything at the time at which it happened', () => {
    for (const numerator of [12, 25, 30, 48, 60, 120]) {
      const before = film();
      const after = structuredClone(before);
      conformFrameRate(after, { numerator, denominator: 1 });
      const factor = numerator / 24;
      expect(shotOf(after).length).toBe(96 * factor);
      expect(shotOf(after).tracks['nodes/n/glow']!.at(-1)!.frame).toBe(shotOf(after).length);
      expect(documentSchema.safeParse(after).success).toBe(true);
      // A quarter, half and three quarters through the shot, where all moves stand on whole frames, the same is seen.
      for (const share of [0.25, 0.5, 0.75]) {
        const at = (document: ProjectDocument) => evaluate(document, shotOf(document), 1 + share * shotOf(document).length).parts[0]!; // prettier-ignore
        const [one, other] = [at(before), at(after)];
        for (const [k, v] of other.transform.entries()) expect(v).toBeCloseTo(one.transform[k]!, 6);
        // The last picture is held for one frame, whatever the rate.
        expect(Math.abs(other.glow - one.glow)).toBeLessThan(0.2);
      }
      // Three turns still fill the shot, so that it loops.
      const turn = Object.values(shotOf(after).moves).find(({ kind }) => kind === 'turntable')!;
      expect(turn.length * turn.repeat).toBeCloseTo(shotOf(after).length, 9);
      expect(after.reel.clips['c']!.speed).toBeCloseTo(1 / factor, 9);
      expect(after.reel.clips['filmed']).toMatchObject({ speed: 1, changeFrames: 24 * factor });
      expect(after.reel.titles['title']).toMatchObject({ start: 1 + 24 * factor, length: 48 * factor });
    }
  });

  it('puts everything on whole frames', () => {
    const document = film();
    conformFrameRate(document, { numerator: 25, denominator: 1 });
    const shot = shotOf(document);
    expect(shot.length).toBe(100);
    expect(shot.range).toEqual([1, 51]);
    expect(shot.tracks['nodes/n/glow']!.map(({ frame }) => frame)).toEqual([1, 51, 100]);
    const travel = Object.values(shot.moves).find(({ kind }) => kind === 'travel')!;
    expect([travel.start, travel.length]).toEqual([26, 25]);
  });

  it('keeps keys apart that would come to lie on one another', () => {
    const document = film();
    document.frameRate = { numerator: 60, denominator: 1 };
    shotOf(document).tracks['nodes/n/glow'] = [key(1, 0), key(2, 1), key(3, 2), key(96, 3)];
    conformFrameRate(document, { numerator: 24, denominator: 1 });
    const frames = shotOf(document).tracks['nodes/n/glow']!.map(({ frame }) => frame);
    expect(frames).toEqual([1, 1.4, 1.8, shotOf(document).length]);
  });

  it('does not leave the limits of lengths and speeds', () => {
    const document = film();
    shotOf(document).length = 1;
    shotOf(document).range = [1, 1];
    conformFrameRate(document, { numerator: 1, denominator: 1 });
    conformFrameRate(document, { numerator: 240_000, denominator: 1 });
    expect(documentSchema.safeParse(document).success).toBe(true);
    expect(rateOf({ numerator: 24_000, denominator: 1001 })).toBeCloseTo(23.976, 3);
  });
});
