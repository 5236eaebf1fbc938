import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Probed } from '@zippy/core/develop';
import { Events } from './events/events';
import { Films } from './films/films';
import { Files } from './imports/files';
import { Imports } from './imports/imports';
import { Documents } from './projects/documents';
import { Footages } from './footage/footages';
import { KeptFinishes } from './keeping/keptFinishes';
import { Projects } from './projects/projects';
import { Packages } from './packages/packages';
import { Blobs } from './storage/blobs';
import { openDatabase } from './storage/database';
import { FrameFiles } from './storage/frameFiles';
import { lockFolder } from './storage/lockFolder';
import { Reserve } from './storage/reserve';
import { storeShippedSurroundings } from './shipped';
import { PlanThreads } from './takes/planner';
import { Darkrooms } from './takes/darkrooms';
import { Stills } from './takes/stills';
import { Takes } from './takes/takes';
import type { Answer } from './workers/answering';
import type { Developed, ProbeRequest } from './workers/developWorker';
import { workerFile } from './workers/startWorker';
import { Tracer, workerCount } from './workers/tracer';

/** Frames that are developed at once. */
const DARKROOMS = 2;

/** Everything the routes use, over one data folder. */
export interface Services {
  projects: Projects;
  imports: Imports;
  takes: Takes;
  films: Films;
  footages: Footages;
  kept: KeptFinishes;
  blobs: Blobs;
  files: Files;
  reserve: Reserve;
  events: Events;
  stills: Stills;
  packages: Packages;
  workers: number;
  close(): Promise<void>;
}

/**
 * Opens a data folder, takes up its unfinished takes, and starts what works on it.
 * @param shipped folder of the surroundings that new projects are lit by
 * @param out folder that frames are written into where one asks for it
 */
export async function openServices(
  folder: string,
  shipped: string | null = null,
  out: string | null = null,
): Promise<Services> {
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
  const films = new Films(database, projects, takes, blobs, files, join(folder, 'films'), events);
  const footages = new Footages(blobs, join(folder, 'blobs'), films.encoder);
  const imports = new Imports(blobs, events, join(folder, 'blobs'));
  const { file, data } = workerFile('developWorker');
  const pool = new Piscina({
    filename: file.href,
    workerData: data,
    minThreads: 0,
    maxThreads: DARKROOMS,
    idleTimeout: 10_000,
  });
  const rooms = new Darkrooms((request) => pool.run(request) as Promise<Answer<Developed>>, DARKROOMS);
  const probe = (request: ProbeRequest) => pool.run(request) as Promise<Answer<Probed>>;
  await films.resume();
  await takes.resume();
  return {
    projects,
    imports,
    takes,
    films,
    footages,
    kept: new KeptFinishes(database, events),
    blobs,
    files,
    reserve,
    events,
    packages: new Packages(database, projects, blobs, frames, join(folder, 'films')),
    stills: new Stills(takes, projects, blobs, rooms, probe, out),
    workers: workerCount(),
    close: async () => {
      events.close();
      await takes.close();
      await films.close();
      await footages.close();
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
