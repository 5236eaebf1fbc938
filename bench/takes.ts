// The list of takes of a project with very many frames, as the server answers it.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Events } from '../server/src/events/events';
import { Projects } from '../server/src/projects/projects';
import { Blobs } from '../server/src/storage/blobs';
import { openDatabase } from '../server/src/storage/database';
import { FrameRow, TakeRow } from '../server/src/storage/entities';
import { FrameFiles } from '../server/src/storage/frameFiles';
import { planHere } from '../server/src/takes/planner';
import { Takes } from '../server/src/takes/takes';
import type { Tracer } from '../server/src/workers/tracer';
import { figure, median } from './figure';

const TAKES = 40;
const FRAMES = 250;
const RUNS = 15;

export default async function takes(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
  const database = await openDatabase(join(folder, 'bench.sqlite'));
  const events = new Events();
  const projects = new Projects(database, events);
  const files = new FrameFiles(join(folder, 'frames'));
  const idle = { stop: () => undefined, close: async () => undefined } as unknown as Tracer;
  const all = new Takes(database, projects, new Blobs(join(folder, 'blobs')), files, idle, events, planHere);
  const identity = (take: number, frame: number) => `${take * FRAMES + frame}`.padStart(64, '0');
  for (let take = 0; take < TAKES; take++) {
    await database.getRepository(TakeRow).insert({
      id: `take${take}`,
      project: 'bench',
      number: take + 1,
      shot: 'shot',
      shotName: 'Shot',
      state: 'done',
      first: 1,
      last: FRAMES,
      settings: JSON.stringify(defaultRenderSettings()),
      document: 'x'.repeat(500_000),
      scene: '',
      planned: FRAMES,
      loops: 0,
      failure: '',
      order: take,
      createdAt: take,
    });
    const frames = Array.from({ length: FRAMES }, (_, k) => ({ take: `take${take}`, number: k + 1, identity: identity(take, k) })); // prettier-ignore
    for (let k = 0; k < FRAMES; k += 100) await database.getRepository(FrameRow).insert(frames.slice(k, k + 100));
    for (const frame of frames) files.added(frame.identity);
  }
  const times: number[] = [];
  for (let k = 0; k < RUNS; k++) {
    const start = performance.now();
    const list = await all.list('bench');
    times.push(performance.now() - start);
    if (list.reduce((sum, { done }) => sum + done.length, 0) !== TAKES * FRAMES) throw new Error('frames are missing');
  }
  figure('takes.listMilliseconds', median(times), { most: 50 });
  await all.close();
  await database.destroy();
  rmSync(folder, { recursive: true });
}
