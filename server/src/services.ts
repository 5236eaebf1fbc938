import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { Events } from './events/events';
import { Films } from './films/films';
import { Imports } from './imports/imports';
import { Projects } from './projects/projects';
import { Blobs } from './storage/blobs';
import { openDatabase } from './storage/database';
import { storeShippedSurroundings } from './shipped';
import { Takes } from './takes/takes';
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
  const database = await openDatabase(join(folder, 'zippy-reel.sqlite'));
  const events = new Events();
  const blobs = new Blobs(join(folder, 'blobs'));
  await blobs.prepare();
  const surroundings = shipped === null ? [] : await storeShippedSurroundings(blobs, shipped);
  const projects = new Projects(database, events, surroundings);
  const tracer = new Tracer();
  const takes = new Takes(database, projects, blobs, join(folder, 'frames'), tracer, events);
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
    events,
    pictures: { develop: (request) => pool.run(request) as Promise<Uint8Array> },
    workers: workerCount(),
    close: async () => {
      events.close();
      await takes.close();
      await films.close();
      await imports.close();
      await pool.destroy();
      await database.destroy();
    },
  };
}
