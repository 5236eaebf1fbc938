import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { newAsset, newCamera } from '@zippy/core/document';
import { cameraOfSamples } from '@zippy/core/intake';
import { fromDirections, fromRectangle, pinholeOf, sightOf } from '@zippy/core/solve';
import { openStudio } from '../../../testing/studioBed';
import { Notices } from '../../store/notices';
import type { Studio } from '../../store/studio';
import { MATCH_THREAD, Matching } from './matching';
import type { ClipAsked, ClipSolved, StillAsked } from './match.worker';

const real = newCamera({ position: [500, 800, 1500], target: [0, 0, 0], roll: 0.1, focalLength: 35 });
let studio: Studio;
let matching: Matching;
let asked: ClipAsked | null;
let finish: (solved: ClipSolved) => void;
let fail: (error: unknown) => void;
const ended = vi.fn();

const thread = {
  still: async (marks: StillAsked) =>
    marks.kind === 'rectangle'
      ? { ...fromRectangle(marks), problem: null }
      : { camera: fromDirections(marks), width: 0, depth: 0, miss: 0, problem: null },
  solve: (of: ClipAsked) => {
    asked = of;
    return new Promise<ClipSolved>((resolve, reject) => {
      finish = resolve;
      fail = reject;
    });
  },
};
const settled = async () => {
  TestBed.tick();
  await new Promise((resolve) => setTimeout(resolve, 0));
};
/** Puts the marks where the real camera sees a sheet of 600 by 400. */
const mark = () =>
  [[-300, 200], [300, 200], [300, -200], [-300, -200]].forEach(([x, z], k) =>
    matching.move(k, matching.markOf(sightOf(pinholeOf(real), [x!, 0, z!])!)),
  ); // prettier-ignore

beforeEach(async () => {
  asked = null;
  ended.mockReset();
  const footage = { rate: 24, frames: ['a'.repeat(64), 'b'.repeat(64)], size: null, brightness: [0.5, 0.5] };
  studio = openStudio({}, [{ provide: MATCH_THREAD, useValue: () => ({ thread, end: ended }) }]);
  studio.edit('Plate', (draft) => {
    draft.assets['film'] = newAsset({ id: 'film', name: 'Film', kind: 'footage', hash: 'a'.repeat(64), footage }); // prettier-ignore
    Object.assign(draft.set.behind, { kind: 'plate', plate: 'film' });
  });
  matching = TestBed.inject(Matching);
  matching.start();
  matching.width.set(600);
  matching.depth.set(400);
  mark();
  await settled();
});

describe('a camera matched by marks', () => {
  it('is told in words, and takes the place of the shot camera in one step, at rest', async () => {
    expect(matching.says()).toMatch(/^35\.0 mm, looks 2[0-9](\.\d)?° down · marks within 0\.0 px$/);
    studio.edit('Keys', (draft) => void (draft.shots['one']!.tracks['cameras/eye/position'] = [{ frame: 1, value: [0, 0, 9], pace: 'linear' }])); // prettier-ignore
    matching.put();
    const eye = studio.document().cameras['eye']!;
    real.position.forEach((v, k) => expect(eye.position[k]).toBeCloseTo(v, 0));
    expect(eye.roll).toBeCloseTo(0.1, 3);
    expect(eye.focalLength).toBeCloseTo(35, 1);
    expect(studio.shot()!.tracks).toEqual({});
    expect(studio.throughCamera()).toBe(true);
    studio.undo();
    expect(studio.document().cameras['eye']!.position).not.toEqual(eye.position);
    expect(Object.keys(studio.shot()!.tracks)).toHaveLength(1);
  });

  it('becomes a camera of its own where the shot has none', () => {
    studio.edit('None', (draft) => void (draft.shots['one']!.camera = null));
    matching.put();
    expect(studio.document().cameras[studio.shot()!.camera!]!.name).toBe('Matched camera');
  });

  it('shows the ground in pieces, and none of what lies behind it', () => {
    expect(matching.grid().length).toBeGreaterThan(50);
    for (const line of matching.grid()) for (const { x, y } of line) expect(Math.max(Math.abs(x), Math.abs(y))).toBeLessThan(6); // prettier-ignore
  });

  it('of edges comes by the height of the camera', async () => {
    matching.kind.set('directions');
    matching.height.set(800);
    const at = (x: number, z: number) => matching.markOf(sightOf(pinholeOf(real), [x, 0, z])!);
    [[-300, 200], [300, 200], [-300, -200], [300, -200], [-300, 200], [-300, -200], [300, 200], [300, -200], [0, 0]].forEach(([x, z], k) => matching.move(k, at(x!, z!))); // prettier-ignore
    await settled();
    matching.put();
    real.position.forEach((v, k) => expect(studio.document().cameras['eye']!.position[k]).toBeCloseTo(v, 0));
    await matching.track();
    expect(TestBed.inject(Notices).notice()).toContain('corners of a rectangle');
  });
});

describe('a clip that is followed', () => {
  const solved = (): ClipSolved => {
    const sample = { turn: [0, 0, 0, 1] as [number, number, number, number], focalLength: 35, sensorWidth: 36, focusDistance: 900, fStop: 0 }; // prettier-ignore
    const samples = [1, 2, 3].map((frame) => ({ frame, position: [frame, 0, 500] as [number, number, number], ...sample })); // prettier-ignore
    return { ...cameraOfSamples(samples, 'Matched camera'), misses: [0.001, 0.002, null], miss: 0.0015, points: 12 };
  };

  it('gives the shot a camera that moves, tells how far it is off, and is undone in one step', async () => {
    const done = matching.track();
    expect(matching.progress()).toEqual({ done: 0, of: 48 });
    expect(asked).toMatchObject({ shot: 'one', frame: 1, lens: true });
    expect(asked!.corners[0]!.place).toEqual([-300, 0, 200]);
    finish(solved());
    await done;
    const camera = studio.shot()!.camera!;
    expect(studio.shot()!.tracks[`cameras/${camera}/position`]!.length).toBeGreaterThan(1);
    expect(matching.misses().map((miss) => miss && Math.round(miss * 100) / 100)).toEqual([0.96, 1.92, null]);
    expect(TestBed.inject(Notices).news()).toContain('On 1 frames too little was seen');
    expect(ended).toHaveBeenCalled();
    studio.undo();
    expect(studio.shot()!.camera).toBe('eye');
  });

  it('that is stopped, or fails, changes nothing and can be followed again', async () => {
    const before = studio.document();
    const done = matching.track();
    matching.stop();
    await done;
    expect(studio.document()).toBe(before);
    const again = matching.track();
    fail(new Error('The picture could not be read.'));
    await again;
    expect(studio.document()).toBe(before);
    expect(TestBed.inject(Notices).notice()).toContain('could not be read');
    expect(matching.progress()).toBeNull();
  });

  it('is judged on other frames by the camera of the shot, whose marks are of one frame', async () => {
    expect(matching.marking()).toBe(true);
    expect(matching.filmed()).toBe(true);
    studio.goTo(5);
    expect(studio.frame()).toBe(5);
    expect(matching.marking()).toBe(false);
    matching.markHere();
    expect(matching.marking()).toBe(true);
  });
});
