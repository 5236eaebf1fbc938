import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { Events } from './events/events';
import { Films } from './films/films';
import { Files } from './imports/files';
import { Imports } from './imports/imports';
import { Documents } from './projects/documents';
import { Projects } from './projects/projects';
import { Blobs } from './storage/blobs';
import { openDatabase } from './storage/database';
import { FrameFiles } from './storage/frameFiles';
import { lockFolder } from './storage/lockFolder';
import { Reserve } from './storage/reserve';
import { storeShippedSurroundings } from './shipped';
import { PlanThreads } from './takes/planner';
import { Takes } from './takes/takes';
import { UserProblem } from '@zippy/core/document';
import type developFrame from './workers/developWorker';
import type { DevelopRequest } from './workers/developWorker';
import { workerFile } from './workers/startWorker';
import { Tracer, workerCount } from './workers/tracer';

/** Develops frames in a pool of threads. */
export interface Pictures {
  develop(request: DevelopRequest): Promise<Uint8Array>;
}

/** Everything the routes use, over one data folder. */
export interface Services {
  projects: Projects;
  imports: Imports;
  takes: Takes;
  films: Films;
  blobs: Blobs;
  files: Files;
  reserve: Reserve;
  events: Events;
  pictures: Pictures;
  workers: number;
  close(): Promise<void>;
}

/**
 * Opens a data folder, takes up its unfinished takes, and starts what works on it.
 * @param shipped folder of the surroundings that new projects are lit by
 */
export async function openServices(folder: string, shipped: string | null = null): Promise<Services> {
  for (const part of ['blobs', 'frames', 'films']) await mkdir(join(folder, part), { recursive: true });
  const unlock = lockFolder(folder);
  const reserve = new Reserve(folder);
  const database = await reserve.spend(() => openDatabase(join(folder, 'zippy-reel.sqlite')));
  void reserve.keep();
  const events = new Events();
  const blobs = new Blobs(join(folder, 'blobs'));
  await blobs.prepare();
  const surroundings = shipped === null ? [] : await storeShippedSurroundings(blobs, shipped);
  const documents = new Documents();
  const projects = new Projects(database, events, surroundings, documents);
  const files = new Files();
  const frames = new FrameFiles(join(folder, 'frames'));
  await frames.prepare();
  const tracer = new Tracer();
  const takes = new Takes(database, projects, blobs, frames, tracer, events, new PlanThreads());
  const films = new Films(database, projects, takes, blobs, join(folder, 'films'), events);
  const imports = new Imports(blobs, events, join(folder, 'blobs'));
  const { file, data } = workerFile('developWorker');
  const pool = new Piscina({
    filename: file.href,
    workerData: data,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 10_000,
  });
  await films.resume();
  await takes.resume();
  return {
    projects,
    imports,
    takes,
    films,
    blobs,
    files,
    reserve,
    events,
    pictures: {
      develop: async (request) => {
        const answer = (await pool.run(request)) as Awaited<ReturnType<typeof developFrame>>;
        if ('problem' in answer)
          throw new UserProblem(answer.problem.code, answer.problem.message, answer.problem.status);
        return answer.result;
      },
    },
    workers: workerCount(),
    close: async () => {
      events.close();
      await takes.close();
      await films.close();
      await imports.close();
      await pool.destroy();
      await files.close();
      await documents.close();
      await database.destroy();
      reserve.close();
      unlock();
    },
  };
}
