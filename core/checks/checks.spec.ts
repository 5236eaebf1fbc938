import { describe, expect, it } from 'vitest';
import { newClip, newDocument, newNode, type ProjectDocument } from '../document';
import { newMove } from '../motion';
import { findFaults } from './index';

function studio(): ProjectDocument {
  const document = structuredClone(newDocument('Checks'));
  document.nodes['box'] = newNode({ id: 'box', name: 'Box', mesh: { asset: 'a'.repeat(64), index: 0 }, finish: 'f' });
  return document;
}
const names = (document: ProjectDocument, takes: Parameters<typeof findFaults>[1]['takes'] = []) =>
  findFaults(document, { takes }).map(({ check }) => check);

describe('what will spoil a film', () => {
  it('is nothing in a project as it should be', () => expect(names(studio())).toEqual([]));

  it('are parts without finish, and nothing that shines', () => {
    const document = studio();
    document.nodes['box']!.finish = null;
    for (const light of Object.values(document.lights)) light.on = false;
    document.set.surroundings.brightness = 0;
    expect(findFaults(document, { takes: [] })).toEqual([
      { check: 'bareParts', fault: { nodes: ['box'] } },
      { check: 'darkness', fault: {} },
    ]);
  });

  it('are shots without camera, late moves and turns that are not whole', () => {
    const document = studio();
    const shot = Object.values(document.shots)[0]!;
    shot.camera = 'gone';
    const late = newMove('travel', 'nodes/box', shot.length + 1, 10);
    const half = { ...newMove('turntable', 'nodes/box', 1, shot.length), turns: 1.5 };
    shot.moves = { [late.id]: late, [half.id]: half };
    expect(findFaults(document, { takes: [] })).toEqual([
      { check: 'noCamera', fault: { shot: shot.id } },
      { check: 'lateMove', fault: { shot: shot.id, move: late.id } },
      { check: 'unevenLoop', fault: { shot: shot.id, move: half.id } },
    ]);
    // Two halves make a whole.
    shot.moves = { [half.id]: { ...half, length: shot.length / 2, repeat: 2 } };
    shot.camera = Object.keys(document.cameras)[0]!;
    expect(names(document)).toEqual([]);
  });

  it('are clips whose takes are gone or not finished', () => {
    const document = studio();
    document.reel.clips = {
      a: newClip({ kind: 'take', take: 'half' }, { id: 'a' }),
      b: newClip({ kind: 'take', take: 'gone' }, { id: 'b' }),
    };
    const settings = { step: 1, width: 16, height: 9 };
    const take = { id: 'half', shot: 's', shotName: 'Turn', number: 4, first: 1, last: 2, settings, done: [1] };
    expect(findFaults(document, { takes: [take] }).map(({ fault }) => fault)).toEqual([
      { clip: 'a', take: 4 },
      { clip: 'b', take: null },
    ]);
    document.reel.clips = { a: document.reel.clips['a']! };
    expect(names(document, [{ ...take, done: [1, 2] }])).toEqual([]);
  });

  it('are cameras that go below the floor, where there is one', () => {
    const document = studio();
    document.set.floor.kind = 'floor';
    const shot = Object.values(document.shots)[0]!;
    const key = (frame: number, y: number) => ({ frame, value: [0, y, 500] as [number, number, number], pace: 'linear' as const }); // prettier-ignore
    shot.tracks[`cameras/${shot.camera}/position`] = [key(1, 100), key(11, -100)];
    expect(findFaults(document, { takes: [] })).toEqual([{ check: 'underFloor', fault: { shot: shot.id, frame: 7 } }]);
    // Asked again after an edit that changes nothing of it, and after one that does.
    expect(names({ ...document, finishes: {} })).toEqual(['underFloor']);
    const mended = { ...shot, tracks: {} };
    expect(names({ ...document, shots: { [shot.id]: mended } })).toEqual([]);
    expect(names({ ...document, set: { ...document.set, floor: { ...document.set.floor, kind: 'none' } } })).toEqual(
      [],
    );
    const low = { ...document.cameras[shot.camera!]!, position: [0, -5, 300] as [number, number, number] };
    expect(names({ ...document, cameras: { [low.id]: low }, shots: { [shot.id]: mended } })).toEqual(['underFloor']);
  });
});
