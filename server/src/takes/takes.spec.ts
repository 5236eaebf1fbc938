import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { MoreThan, type DataSource } from 'typeorm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { defaultRenderSettings } from '@zippy/core/trace';
import type { ServerEvent } from '@zippy/core/wire';
import { Events } from '../events/events';
import { Projects, type OpenProject } from '../projects/projects';
import { Blobs } from '../storage/blobs';
import { writeExr } from '@zippy/core/develop';
import { openDatabase } from '../storage/database';
import { FrameRow, TakeRow } from '../storage/entities';
import { FrameFiles } from '../storage/frameFiles';
import type { TraceAnswer } from '@zippy/core/wire';
import type { TraceRequest, Tracer } from '../workers/tracer';
import { planHere } from './planner';
import { Takes } from './takes';

const FRAME = writeExr({ width: 1, height: 1, channels: [{ name: 'R', type: 'half', data: new Float32Array(1) }] });

/** Stands for the tracer: answers as told, and writes a file where it succeeds. */
class FakeTracer {
  readonly asked: Omit<TraceRequest, 'id'>[] = [];
  stops = 0;
  answer: (count: number) => Partial<TraceAnswer> | Promise<Partial<TraceAnswer>> = () => ({});
  async trace(request: Omit<TraceRequest, 'id'>, tell: (part: number) => void = () => undefined): Promise<TraceAnswer> {
    this.asked.push(request);
    tell(0.5);
    const answer = await this.answer(this.asked.length);
    if (!answer.failure && !answer.stopped && request.output !== null) {
      mkdirSync(dirname(request.output), { recursive: true });
      writeFileSync(request.output, FRAME);
    }
    return { id: 1, ...answer };
  }
  stop(): void {
    this.stops++;
  }
  async close(): Promise<void> {}
}

let folder: string;
let tracer: FakeTracer;
let takes: Takes;
let project: OpenProject;
let close: () => Promise<void>;
let database: DataSource;
let projects: Projects;
let told: ServerEvent[];
let files: FrameFiles;
const settings = defaultRenderSettings();
const shot = () => Object.keys(project.document.shots)[0]!;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-takes-'));
  database = await openDatabase(join(folder, 'test.sqlite'));
  const events = new Events();
  told = [];
  const send = events.send.bind(events);
  events.send = (event) => {
    told.push(event);
    send(event);
  };
  projects = new Projects(database, events);
  const blobs = new Blobs(join(folder, 'blobs'));
  tracer = new FakeTracer();
  files = new FrameFiles(join(folder, 'frames'));
  await files.prepare();
  takes = new Takes(database, projects, blobs, files, tracer as unknown as Tracer, events, planHere);
  project = await projects.open((await projects.create('Takes')).id);
  // A turning light makes every frame another picture.
  const [light] = Object.keys(project.document.lights);
  const track = [
    { frame: 1, value: 1, pace: 'linear' },
    { frame: 96, value: 96, pace: 'linear' },
  ];
  await projects.edit(
    project.id,
    1,
    [{ op: 'add', path: ['shots', shot(), 'tracks', `lights/${light}/power`], value: track }],
    'w',
  );
  close = async () => {
    await takes.close();
    await database.destroy();
  };
});
afterEach(async () => {
  await close();
  rmSync(folder, { recursive: true, force: true });
});

const until = async (id: string, states: string[]) => {
  for (let wait = 0; wait < 400; wait++) {
    const view = await takes.show(id);
    if (states.includes(view.state)) return view;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  throw new Error('the take did not get there');
};

describe('a take', () => {
  it('keeps the frames it has when the disk is full, and goes on from there', async () => {
    tracer.answer = (count) => (count === 4 ? { failure: 'ENOSPC: no space left on device', code: 'ENOSPC' } : {});
    const { id } = await takes.create(project.id, shot(), 1, 6, settings);
    const failed = await until(id, ['failed']);
    expect(failed.failure).toMatch(/disk is full.*continue the take/);
    expect(failed.done).toEqual([1, 2, 3]);
    await takes.continue(id);
    expect((await until(id, ['done'])).done).toEqual([1, 2, 3, 4, 5, 6]);
    expect(tracer.asked).toHaveLength(7);
  });

  it('of every third frame renders those, and each stands for the ones behind it', async () => {
    const { id } = await takes.create(project.id, shot(), 2, 9, { ...settings, step: 3 });
    const { done, named } = await until(id, ['done']);
    expect([done, named, tracer.asked.map(({ frame }) => frame)]).toEqual([[2, 5, 8], 3, [2, 5, 8]]);
    const path = (frame: number) => takes.framePath(id, frame);
    expect([await path(4), await path(9)]).toEqual([await path(2), await path(8)]);
    expect(await path(5)).not.toBe(await path(4));
    await expect(path(10)).rejects.toThrow(/not rendered/);
    expect(await takes.frameBesides(id, 5)).toMatchObject({ before: null, after: null });
  });

  it('of one frame goes before one of many, whose frame at work goes on behind it; others go where they are put', async () => {
    let leave!: (answer: Partial<TraceAnswer>) => void;
    const stuck = () => new Promise<Partial<TraceAnswer>>((resolve) => (leave = resolve));
    tracer.answer = (count) => (count === 2 ? stuck() : {});
    const long = await takes.create(project.id, shot(), 1, 4, settings);
    while (tracer.asked.length < 2) await new Promise((resolve) => setTimeout(resolve, 5));
    const other = await takes.create(project.id, shot(), 5, 6, settings);
    const last = await takes.create(project.id, shot(), 7, 8, settings);
    await takes.queueBefore(last.id, other.id);
    expect(tracer.stops).toBe(0);
    const still = await takes.create(project.id, shot(), 9, 9, settings);
    const second = await takes.create(project.id, shot(), 10, 10, settings);
    expect(tracer.stops).toBe(1);
    leave({ stopped: true });
    await until(other.id, ['done']);
    expect(tracer.asked.map(({ frame }) => frame)).toEqual([1, 2, 9, 10, 2, 3, 4, 7, 8, 5, 6]);
    for (const { id } of [long, still, second, last]) expect((await takes.show(id)).state).toBe('done');
    await expect(takes.queueBefore(long.id, null)).rejects.toThrow(/does not wait any more/);
  });

  it('tells how far its frame is, and how long the rest takes by what the frames before took', async () => {
    tracer.answer = () => new Promise((resolve) => setTimeout(() => resolve({}), 30));
    const { id } = await takes.create(project.id, shot(), 1, 3, settings);
    await until(id, ['done']);
    const progress = told.filter((event) => event.type === 'progress');
    expect(progress.map(({ frame, part }) => [frame, part])).toEqual([[1, 0.5], [2, 0.5], [3, 0.5]]); // prettier-ignore
    const left = progress.map(({ secondsLeft }) => secondsLeft!);
    // At the half of its first frame of three nothing else is known; then one and a half, and a half are left.
    expect(left[1]! / left[2]!).toBeCloseTo(3, 0);
    expect(left[2]).toBeGreaterThan(0.005);
  });

  it('of more frames than the disk has room for is asked about, and rendered all the same where that is wanted', async () => {
    const huge = { ...settings, width: 6000, height: 5000, layers: ['motion' as const] };
    files.free = async () => 3e9;
    const ask = (anyway: boolean) => takes.create(project.id, shot(), 1, 90, huge, '', undefined, anyway);
    await expect(ask(false)).rejects.toThrow(
      /90 frames of 6000 × 5000 .* take about \d\d\.\d GB, and the disk has 3\.0 GB left/,
    );
    expect(await takes.list(project.id)).toEqual([]);
    const { id } = await ask(true);
    await takes.stop(id);
    await takes.create(project.id, shot(), 1, 90, settings);
  });

  it('of a picture that the tracer has no memory for is refused with the largest that fits', async () => {
    const large = { ...settings, width: 8192, height: 4608, layers: ['motion' as const, 'lights' as const] };
    const ask = (over: object) => takes.create(project.id, shot(), 1, 1, { ...large, ...over });
    await expect(ask({})).rejects.toThrow(
      /needs \d\.\d GB while it is traced; 3\.4 GB is the most\. Render it at most 6\d\d\d pixels wide, or keep fewer layers/,
    );
    await expect(ask({ layers: [], width: 7000, height: 3938 })).resolves.toBeDefined();
    expect(await takes.list(project.id)).toHaveLength(1);
  });

  it('tells what its frames take on the disk, and clears away what none shows', async () => {
    const { id } = await takes.create(project.id, shot(), 1, 3, settings);
    await until(id, ['done']);
    const [, lost] = [1, 2].map((k) => `${k}`.repeat(64));
    mkdirSync(dirname(files.path(lost!)), { recursive: true });
    writeFileSync(files.path(lost!), FRAME);
    writeFileSync(`${files.path('3'.repeat(64).replace(/^33/, '22'))}.left`, 'some');
    files.added(lost!);
    expect(await takes.disk(project.id)).toMatchObject({ project: 3 * FRAME.length, unneeded: FRAME.length + 4 });
    expect(await takes.tidy()).toBe(FRAME.length + 4);
    expect([existsSync(files.path(lost!)), files.has(lost!)]).toEqual([false, false]);
    expect(await takes.disk(project.id)).toMatchObject({ project: 3 * FRAME.length, unneeded: 0 });
    expect((await takes.show(id)).done).toEqual([1, 2, 3]);
  });

  it('without blur has sharp frames of its own, the same where nothing moves', async () => {
    const blurred = await takes.create(project.id, shot(), 1, 1, settings);
    await until(blurred.id, ['done']);
    const sharp = await takes.create(project.id, shot(), 1, 1, { ...settings, motionBlur: false });
    await until(sharp.id, ['done']);
    expect(await takes.framePath(sharp.id, 1)).not.toBe(await takes.framePath(blurred.id, 1));
    await projects.edit(project.id, 2, [{ op: 'replace', path: ['shots', shot(), 'tracks'], value: {} }], 'w');
    const still = await takes.create(project.id, shot(), 1, 1, settings);
    const both = await takes.create(project.id, shot(), 1, 1, { ...settings, motionBlur: false });
    for (const { id } of [still, both]) await until(id, ['done']);
    expect(await takes.framePath(both.id, 1)).toBe(await takes.framePath(still.id, 1));
  });

  it('that is stopped ends the frame at work and can be continued without tracing one twice', async () => {
    let finish!: (answer: Partial<TraceAnswer>) => void;
    tracer.answer = (count) => (count === 2 ? new Promise((resolve) => (finish = resolve)) : {});
    const { id } = await takes.create(project.id, shot(), 1, 4, settings);
    while (tracer.asked.length < 2) await new Promise((resolve) => setTimeout(resolve, 10));
    await takes.stop(id);
    expect(tracer.stops).toBe(1);
    finish({ stopped: true });
    expect((await takes.show(id)).state).toBe('stopped');
    await takes.continue(id);
    expect((await until(id, ['done'])).done).toHaveLength(4);
    const outputs = tracer.asked.map((each) => each.output);
    expect(new Set(outputs).size).toBe(4);
    expect(outputs).toHaveLength(5);
  });

  it('that is deleted while a frame is at work leaves no frame, and the next take goes on', async () => {
    let finish!: (answer: Partial<TraceAnswer>) => void;
    tracer.answer = (count) => (count === 1 ? new Promise((resolve) => (finish = resolve)) : {});
    const { id } = await takes.create(project.id, shot(), 1, 1, settings);
    const next = await takes.create(project.id, shot(), 2, 2, settings);
    while (tracer.asked.length < 1) await new Promise((resolve) => setTimeout(resolve, 10));
    await takes.remove(id);
    finish({});
    await until(next.id, ['done']);
    expect([existsSync(tracer.asked[0]!.output!), existsSync(tracer.asked[1]!.output!)]).toEqual([false, true]);
  });

  it('after an edit traces only the frames that changed', async () => {
    const first = await takes.create(project.id, shot(), 1, 5, settings);
    await until(first.id, ['done']);
    const again = await takes.create(project.id, shot(), 3, 8, settings);
    await until(again.id, ['done']);
    expect(tracer.asked).toHaveLength(8);
  });

  it('waits its turn, and numbers go on', async () => {
    const [one, two] = [
      await takes.create(project.id, shot(), 1, 2, settings),
      await takes.create(project.id, shot(), 3, 4, settings),
    ];
    await until(two.id, ['done']);
    expect([one.number, two.number]).toEqual([1, 2]);
    expect(tracer.asked.map(({ frame }) => frame)).toEqual([1, 2, 3, 4]);
  });

  it('never gets the number of one that was deleted', async () => {
    for (const number of [1, 2]) {
      const take = await takes.create(project.id, shot(), 1, 1, settings);
      expect(take.number).toBe(number);
      await until(take.id, ['done']);
      await takes.remove(take.id);
    }
    const both = await Promise.all([1, 2].map(() => takes.create(project.id, shot(), 1, 1, settings)));
    expect(both.map(({ number }) => number).sort()).toEqual([3, 4]);
  });

  it('tells windows which frames show each picture that was rendered, and no more', async () => {
    // A shot in which nothing moves after frame 3 repeats one picture.
    const track = ['shots', shot(), 'tracks', `lights/${Object.keys(project.document.lights)[0]}/power`];
    const key = (frame: number, value: number) => ({ frame, value, pace: 'linear' });
    await projects.edit(project.id, 2, [{ op: 'replace', path: track, value: [key(1, 1), key(3, 3)] }], 'w');
    told.length = 0;
    const { id } = await takes.create(project.id, shot(), 1, 6, settings);
    await until(id, ['done']);
    const frames = told.flatMap((event) => (event.type === 'frame' ? [event.frames] : []));
    expect(frames.flat().sort()).toEqual([1, 2, 3, 4, 5, 6]);
    expect(told.filter(({ type }) => type === 'takes').length).toBeLessThan(6);
  });

  it('of a range outside the shot, or of a shot without a camera, is refused with a sentence', async () => {
    await expect(takes.create(project.id, shot(), 90, 200, settings)).rejects.toThrow(/lie outside the shot/);
    await expect(takes.create(project.id, shot(), 9, 3, settings)).rejects.toThrow(/lie outside/);
    await expect(takes.create(project.id, 'gone', 1, 1, settings)).rejects.toThrow(/no longer there/);
  });

  it('is foreseen from a few of its frames, without those there already and without rendering any', async () => {
    const first = await takes.create(project.id, shot(), 1, 5, settings);
    await until(first.id, ['done']);
    tracer.answer = () => ({ probe: { setup: 0.1, perSample: 1e-6, samples: 16, errors: [0.04] } });
    const { frames, secondsPerFrame, noise } = await takes.predict(project.id, shot(), 1, 20, settings);
    expect(frames).toBe(15);
    expect(tracer.asked.slice(5).map((each) => each.output)).toEqual([null, null, null, null, null]);
    expect(secondsPerFrame.expected).toBeCloseTo(0.1 + 960 * 540 * 64e-6, 6);
    expect(noise.expected).toBeCloseTo(0.02, 6);
    // Of other ways no frame is there: the repeats alone cost nothing.
    const fine = { ...settings, samples: 2 * settings.samples };
    const { others } = await takes.predict(project.id, shot(), 1, 20, settings, [fine]);
    expect(others[0]!.frames).toBeGreaterThan(15);
    expect(others[0]!.secondsPerFrame.expected).toBeCloseTo(0.1 + 960 * 540 * 128e-6, 6);
    tracer.answer = () => ({ failure: 'out of memory' });
    await expect(takes.predict(project.id, shot(), 6, 9, settings)).rejects.toThrow(/could not be measured/);
    await expect(takes.predict(project.id, shot(), 6, 9000, settings)).rejects.toThrow(/lie outside/);
  });

  it('gives no frame that is not rendered yet', async () => {
    const { id } = await takes.create(project.id, shot(), 1, 2, settings);
    await until(id, ['done']);
    expect(await takes.framePath(id, 2)).toMatch(/\.exr$/);
    await expect(takes.framePath(id, 9)).rejects.toThrow(/not rendered yet/);
  });

  it('whose frame fails says why, and the next take is rendered', async () => {
    tracer.answer = (count) => (count === 2 ? { failure: 'the tracer met a fault of its own.' } : {});
    const [one, two] = [
      await takes.create(project.id, shot(), 1, 3, settings),
      await takes.create(project.id, shot(), 4, 5, settings),
    ];
    expect((await until(one.id, ['failed'])).failure).toMatch(/^Frame 2 could not be rendered: the tracer/);
    expect((await until(two.id, ['done'])).done).toEqual([4, 5]);
  });

  it('of a kind that is not known here is set aside with a word; it is still listed, and the queue goes on', async () => {
    const odd = await takes.create(project.id, shot(), 1, 1, settings);
    await until(odd.id, ['done']);
    const rows = database.getRepository(TakeRow);
    for (const [over, word] of [
      [{ settings: '{"width":"wide"}' }, /settings are of a kind/],
      [{ settings: JSON.stringify(settings), document: '{"schemaVersion":99}' }, /newer Zippy Reel/],
      [{ document: 'no document' }, /cannot be rendered/],
    ] as const) {
      // As if its frames had no names yet: what is there needs no document any more.
      await database.getRepository(FrameRow).delete({ take: odd.id });
      await rows.update({ id: odd.id }, { ...over, planned: 0, state: 'waiting' });
      const next = await takes.create(project.id, shot(), 9, 9, settings);
      expect((await until(next.id, ['done'])).done).toEqual([9]);
      const told = (await takes.list(project.id)).find(({ id }) => id === odd.id)!;
      expect([told.state, told.failure]).toEqual(['failed', expect.stringMatching(word)]);
    }
  });

  it('sees a frame that was cut on the disk, or that is found damaged later, and traces it again', async () => {
    const { id } = await takes.create(project.id, shot(), 1, 3, settings);
    await until(id, ['done']);
    writeFileSync(await takes.framePath(id, 2), FRAME.subarray(0, FRAME.length - 4));
    const again = await takes.create(project.id, shot(), 1, 3, settings);
    await until(again.id, ['done']);
    expect(tracer.asked).toHaveLength(4);
    await takes.frameBroken(id, 3);
    expect(await takes.show(id)).toMatchObject({
      state: 'stopped',
      done: [1, 2],
      failure: expect.stringMatching(/Frame 3 was damaged.*Continue/),
    });
    await takes.continue(id);
    expect((await until(id, ['done'])).done).toEqual([1, 2, 3]);
  });

  it('of a shot that loops has its first and last frame beside each other; of another it has not', async () => {
    const [light] = Object.keys(project.document.lights);
    const key = (frame: number, value: number) => ({ frame, value, pace: 'linear' });
    const track = ['shots', shot(), 'tracks', `lights/${light}/power`];
    const frame = async (take: string, number: number) => takes.frameBesides(take, number);
    const straight = await takes.create(project.id, shot(), 1, 96, settings);
    await until(straight.id, ['done']);
    expect((await frame(straight.id, 1)).before).toBeNull();
    await projects.edit(
      project.id,
      2,
      [{ op: 'replace', path: track, value: [key(1, 5), key(49, 50), key(97, 5)] }],
      'w',
    );
    const round = await takes.create(project.id, shot(), 1, 96, settings);
    await until(round.id, ['done']);
    expect((await frame(round.id, 1)).before).toBe(await takes.framePath(round.id, 96));
    expect((await frame(round.id, 96)).after).toBe(await takes.framePath(round.id, 1));
    const part = await takes.create(project.id, shot(), 1, 50, settings);
    await until(part.id, ['done']);
    expect((await frame(part.id, 1)).before).toBeNull();
  });

  it('goes on naming its frames where it was ended', async () => {
    let finish!: (answer: Partial<TraceAnswer>) => void;
    tracer.answer = (count) => (count === 3 ? new Promise((resolve) => (finish = resolve)) : {});
    const { id } = await takes.create(project.id, shot(), 1, 96, settings);
    while (tracer.asked.length < 3) await new Promise((resolve) => setTimeout(resolve, 10));
    await takes.stop(id);
    finish({ stopped: true });
    // As if the server had ended after the first names: all of them are there by now.
    const named = () => database.getRepository(FrameRow).countBy({ take: id });
    for (let [before, now] = [-1, 0]; before !== now;) {
      await new Promise((resolve) => setTimeout(resolve, 200));
      [before, now] = [now, await named()];
    }
    await database.getRepository(FrameRow).delete({ take: id, number: MoreThan(40) });
    await database.getRepository(TakeRow).update({ id }, { planned: 40 });
    await takes.continue(id);
    expect((await until(id, ['done'])).done).toHaveLength(96);
  });
});
