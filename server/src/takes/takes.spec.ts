import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Events } from '../events/events';
import { Projects, type OpenProject } from '../projects/projects';
import { Blobs } from '../storage/blobs';
import { openDatabase } from '../storage/database';
import type { TraceAnswer, TraceRequest, Tracer } from '../workers/tracer';
import { Takes } from './takes';

/** Stands for the tracer: answers as told, and writes a file where it succeeds. */
class FakeTracer {
  readonly asked: Omit<TraceRequest, 'id'>[] = [];
  stops = 0;
  answer: (count: number) => Partial<TraceAnswer> | Promise<Partial<TraceAnswer>> = () => ({});
  async trace(request: Omit<TraceRequest, 'id'>): Promise<TraceAnswer> {
    this.asked.push(request);
    const answer = await this.answer(this.asked.length);
    if (!answer.failure && !answer.stopped && request.output !== null) {
      mkdirSync(dirname(request.output), { recursive: true });
      writeFileSync(request.output, 'frame');
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
const settings = defaultRenderSettings();
const shot = () => Object.keys(project.document.shots)[0]!;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-takes-'));
  const database = await openDatabase(join(folder, 'test.sqlite'));
  const events = new Events();
  const projects = new Projects(database, events);
  const blobs = new Blobs(join(folder, 'blobs'));
  tracer = new FakeTracer();
  takes = new Takes(database, projects, blobs, join(folder, 'frames'), tracer as unknown as Tracer, events);
  project = await projects.create('Takes');
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
    expect(tracer.asked.map((each) => each.state.lights[0]!.power)).toEqual([1, 2, 3, 4]);
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
});
