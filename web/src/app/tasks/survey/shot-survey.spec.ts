import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { FitBy, Shapes, Surveyed } from '@zippy/core/checks';
import { meshKey, type ProjectDocument, type Shot } from '@zippy/core/document';
import { openStudio } from '../../../testing/studioBed';
import { MeshLibrary } from '../../meshes/mesh-library';
import { Readiness } from '../../store/readiness';
import { SceneBounds } from '../../store/scene-bounds';
import type { Studio } from '../../store/studio';
import { ShotSurvey, SURVEY_THREAD } from './shot-survey';

const leaves = { kind: 'leaves' as const, spans: [[5, 9], [20, 20]] as [number, number][], worst: 7, amount: 1.4, thing: null }; // prettier-ignore
let studio: Studio;
let looked: string[];
let answer: (shot: string) => Surveyed | null;
let fitted: Shot | null;

const thread = {
  learn: (shapes: Shapes) => void looked.push(`${shapes.size} shapes`),
  survey(document: ProjectDocument, shot: string) {
    // Only what a look needs goes to the thread.
    expect(Object.keys(document.shots)).toEqual([shot]);
    looked.push(shot);
    return answer(shot);
  },
  fit: (_document: ProjectDocument, _shot: string, _aspect: number, _by: FitBy) => fitted,
};
const calm = async () => {
  TestBed.tick();
  await vi.advanceTimersByTimeAsync(1500);
};
const texts = () =>
  TestBed.inject(Readiness)
    .of('camera')
    .map(({ text }) => text);

beforeEach(() => {
  vi.useFakeTimers();
  looked = [];
  answer = () => ({ faults: [], reach: 0.5 });
  studio = openStudio({}, [
    { provide: SURVEY_THREAD, useValue: () => thread },
    { provide: MeshLibrary, useValue: { outlines: new Map() } },
  ]);
  TestBed.inject(ShotSurvey);
  const meshes = studio.frameState().parts.map(({ mesh }) => meshKey(mesh));
  TestBed.inject(SceneBounds).meshes.set(new Map(meshes.map((key) => [key, { low: [0, 0, 0], high: [1, 1, 1] }])));
});
afterEach(() => vi.useRealTimers());

describe('shots in the background', () => {
  it('are looked through once all is calm, the present one first, and again only when they have changed', async () => {
    studio.openShot('two');
    await calm();
    expect(looked).toEqual(['3 shapes', 'two', 'one']);
    studio.edit('Rename', (draft) => void (draft.nodes['lid']!.name = 'Cover'));
    await calm();
    expect(looked).toHaveLength(3);
    studio.edit('Length', (draft) => void (draft.shots['one']!.length = 50));
    await calm();
    expect(looked.slice(3)).toEqual(['one']);
    studio.edit('Turn', (draft) => void (draft.nodes['lid']!.turn = [0, 1, 0]));
    await calm();
    expect(looked.slice(4)).toEqual(['two', 'one']);
  });

  it('tell what was found where it is, with a way there and ways to mend it', async () => {
    answer = (shot) => ({ faults: shot === 'one' ? [leaves] : [], reach: 1.4 });
    await calm();
    expect(texts()).toEqual(['In "One" the product leaves the picture from frame 5 to 9, at frame 20']);
    const [warning] = TestBed.inject(Readiness).of('camera');
    warning!.show();
    expect([studio.shotId(), studio.frame()]).toEqual(['one', 7]);
    fitted = { ...studio.shot()!, changes: { 'cameras/eye/focalLength': 20 } };
    warning!.mends!.find(({ name }) => name === 'Wider lens')!.run();
    await vi.advanceTimersByTimeAsync(10);
    expect(studio.shot()!.changes).toEqual({ 'cameras/eye/focalLength': 20 });
    answer = () => ({ faults: [], reach: 0.9 });
    await calm();
    expect(texts()).toEqual([]);
    studio.undo();
    expect(studio.shot()!.changes).toEqual({});
  });

  it('forget those that are gone, and go on after one that could not be looked through', async () => {
    answer = (shot) => {
      if (shot === 'one') throw new Error('broken');
      return { faults: [leaves], reach: 2 };
    };
    await calm();
    expect(texts()).toHaveLength(1);
    studio.edit('Delete', (draft) => void delete draft.shots['two']);
    await calm();
    expect(texts()).toEqual([]);
  });

  it('say that no room is enough where there is none', async () => {
    answer = () => ({ faults: [leaves], reach: Infinity });
    await calm();
    fitted = null;
    const before = studio.document();
    TestBed.inject(Readiness).of('camera')[0]!.mends![0]!.run();
    await vi.advanceTimersByTimeAsync(10);
    expect(studio.document()).toBe(before);
  });
});
