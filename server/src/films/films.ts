import { spawnSync } from 'node:child_process';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Worker } from 'node:worker_threads';
import type { DataSource } from 'typeorm';
import { lookOf, newId, UserProblem, type ProjectDocument, type Reel } from '@zippy/core/document';
import { encodingSchema, type Encoding } from '@zippy/core/wire';
import {
  deliveredFrames,
  deliveredSize,
  filmFormat,
  filmPicture,
  layFilm,
  outlineKey,
  spinOrder,
  spinRows,
  type Delivery,
  type Film,
  type TitleOutline,
} from '@zippy/core/reel';
import type { Events } from '../events/events';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { FilmRow } from '../storage/entities';
import { isDiskFull } from '../storage/reserve';
import type { Files } from '../imports/files';
import type { Takes } from '../takes/takes';
import { startWorker } from '../workers/startWorker';
import { FILM_PARTS, type FilmJob } from './filmJob';

const PART = /\.part\.|\.foretold$/;
/** Of a film's picture. */
const MOST_PIXELS = 34e6;
/** Frames by which the size of a film is foretold: some in a row, as encoders see them, from three places. */
const SAMPLED = 3;
const IN_A_ROW = 8;

function sampleOf(frames: readonly number[]): number[] {
  if (frames.length <= SAMPLED * IN_A_ROW) return [...frames];
  return Array.from({ length: SAMPLED }, (_, k) => {
    const start = Math.floor((k * (frames.length - IN_A_ROW)) / (SAMPLED - 1));
    return frames.slice(start, start + IN_A_ROW);
  }).flat();
}
/** Milliseconds an encoder may take to end when the server does. */
const CLOSING = 4000;

/** Finds the encoder: the path set in FFMPEG, or the one on the path; null where there is none. */
export function findEncoder(): string | null {
  const program = process.env['FFMPEG'] || 'ffmpeg';
  return spawnSync(program, ['-version'], { stdio: 'ignore' }).status === 0 ? program : null;
}

/** Assembles takes into film files. */
export class Films {
  /** Program that encodes films, looked for once; null where there is none. */
  readonly encoder = findEncoder();
  /** Films that are being encoded, with how far they are, which is not written to the database frame by frame. */
  private readonly working = new Map<string, { worker: Worker; row: FilmRow }>();

  constructor(
    private readonly database: DataSource,
    private readonly projects: Projects,
    private readonly takes: Takes,
    private readonly blobs: Blobs,
    private readonly files: Files,
    private readonly folder: string,
    private readonly events: Events,
  ) {}

  /** Has a film made of the reel as it is. */
  async create(project: string, delivery: Delivery): Promise<FilmRow> {
    const { job, film } = await this.prepare(project, delivery);
    const { width, height } = deliveredSize(delivery, film.size);
    const row: FilmRow = {
      id: newId(),
      project,
      name: job.name,
      format: delivery.format,
      about: `${width} × ${height}`,
      state: 'encoding',
      frames: job.frames.length,
      encoded: 0,
      bytes: 0,
      failure: '',
      createdAt: Date.now(),
    };
    await this.database.getRepository(FilmRow).insert(row);
    const worker = startWorker('filmWorker', { ...job, output: this.path(row) });
    this.working.set(row.id, { worker, row });
    worker.on('message', (message: unknown) => {
      const { data } = encodingSchema.safeParse(message);
      void this.hear(row, data ?? { failure: 'its thread told something else.' });
    });
    worker.on('error', (error) => void this.hear(row, { failure: error.message }));
    return row;
  }

  /** What a film would take on the disk, by some of its frames, in bytes. Aborting ends it. */
  async foretell(project: string, delivery: Delivery, signal: AbortSignal): Promise<{ bytes: number; frames: number }> {
    const { job } = await this.prepare(project, delivery);
    const all = job.frames;
    const frames = sampleOf(all);
    const output = join(this.folder, `${newId()}.foretold`);
    const worker = startWorker('filmWorker', { ...job, frames, output });
    const stop = () => worker.postMessage('stop');
    signal.addEventListener('abort', stop);
    try {
      const failure = await new Promise<string | null>((resolve) => {
        worker.on('message', (message: unknown) => {
          const { data } = encodingSchema.safeParse(message);
          if (data?.failure !== undefined) resolve(data.failure);
          if (data?.done || data?.stopped) resolve(null);
        });
        worker.on('error', ({ message }) => resolve(message));
        worker.on('exit', () => resolve('its thread ended'));
      });
      if (failure !== null) throw new UserProblem('film-failed', `The size cannot be told: ${failure}.`, 422);
      const { size } = await stat(output).catch(() => ({ size: 0 }));
      return { bytes: Math.round((size * all.length) / frames.length), frames: all.length };
    } finally {
      signal.removeEventListener('abort', stop);
      await rm(output, { force: true });
    }
  }

  /** Gathers what a film is made of. @throws UserProblem where something of it is not there */
  private async prepare(project: string, delivery: Delivery): Promise<{ job: Omit<FilmJob, 'output'>; film: Film }> {
    const ffmpeg = this.encoder;
    const { plan } = filmFormat(delivery.format);
    if (!ffmpeg && plan.by === 'encoder') {
      throw new UserProblem(
        'encoder-missing',
        'ffmpeg is not installed on this machine, so films cannot be written. Install it (on Debian: apt install ffmpeg), or export PNG frames.',
        501,
      );
    }
    const { name, part } = await this.projects.withPart(project, [...FILM_PARTS]);
    const takes = await this.takes.list(project);
    const film = layFilm(part, takes);
    if (film.frames === 0) throw new UserProblem('reel-empty', 'The reel is empty. Put a take on it first.', 422);
    const { width, height } = deliveredSize(delivery, film.size);
    if (width * height > MOST_PIXELS)
      throw new UserProblem('film-large', `Films of ${width} × ${height} pixels cannot be made here: at most ${MOST_PIXELS / 1e6} million. Choose a smaller size.`, 422); // prettier-ignore
    const { leastSide, title } = filmFormat(delivery.format);
    if (Math.min(width, height) < leastSide)
      throw new UserProblem('film-small', `${title} needs at least ${leastSide} pixels a side; this film has ${width} × ${height}. Choose a larger size.`, 422); // prettier-ignore
    const gone = film.clips.findIndex(({ source }) => source.fault === 'gone' || source.fault === 'not-rendered');
    if (gone >= 0)
      throw new UserProblem('clip-gone', `Clip ${gone + 1} on the reel: ${film.clips[gone]!.source.name}. Take it off the reel, or render it.`, 422); // prettier-ignore
    const frames =
      plan.by === 'viewer'
        ? spinOrder(spinRows(film, delivery.pictures)).map(({ frame }) => frame)
        : deliveredFrames(delivery, film.frames);
    const { frameRate, picture, reel, assets, shots } = part;
    const job = {
      name,
      delivery,
      document: { frameRate, picture, reel, assets, shots },
      takes: takes.filter(({ id }) => film.clips.some(({ source: { of } }) => of && 'take' in of && of.take.id === id)),
      frames,
      paths: await this.pathsOf(film, frames),
      looks: await this.looksOf(film, part),
      blobs: this.blobs.folder,
      outlines: await this.outlinesOf(reel, assets),
      ffmpeg: ffmpeg ?? '',
    };
    return { job, film };
  }

  private async pathsOf(film: Film, frames: readonly number[]): Promise<FilmJob['paths']> {
    const paths: FilmJob['paths'] = {};
    for (const frame of frames)
      for (const { laid, frames: shown } of filmPicture(film, frame).shown) {
        const { of } = laid.source;
        if (!of || !('take' in of)) continue;
        for (const { frame: number } of shown) paths[`${of.take.id}@${number}`] ??= await this.takes.frameBesides(of.take.id, number);
      }
    return paths;
  } // prettier-ignore

  private async looksOf(film: Film, part: Parameters<typeof lookOf>[0]): Promise<FilmJob['looks']> {
    const looks: FilmJob['looks'] = {};
    for (const { clip, source } of film.clips) {
      const take = source.of && 'take' in source.of ? source.of.take : null;
      const look = clip.look ?? (take && lookOf(part, take.shot, take.id));
      if (look) looks[clip.id] = { look, lookup: await this.blobs.lookupPath(look) };
    }
    return looks;
  }

  private async outlinesOf(reel: Reel, assets: ProjectDocument['assets']): Promise<FilmJob['outlines']> {
    const outlines: FilmJob['outlines'] = {};
    for (const title of Object.values(reel.titles))
      if (title.picture === null) outlines[outlineKey(title)] ??= await this.outline(title, assets);
    return outlines;
  }

  /** Words as outlines. A font that is gone is replaced by one that is shipped. */
  outline({ words, font }: { words: string; font: string }, assets: ProjectDocument['assets']): Promise<TitleOutline> {
    const own = assets[font]?.kind === 'font' ? assets[font] : null;
    return this.files.outline(words, own ? { path: this.blobs.path(own.hash), name: own.name } : { font });
  }

  /** Enters a film that was made elsewhere; its file is put under its id by the caller. */
  async addFinished(project: string, name: string, file: string): Promise<FilmRow> {
    const { size } = await stat(file);
    const row: FilmRow = {
      id: newId(),
      project,
      name,
      format: 'mp4',
      about: '',
      state: 'done',
      frames: 0,
      encoded: 0,
      bytes: size,
      failure: '',
      createdAt: Date.now(),
    };
    await this.database.getRepository(FilmRow).insert(row);
    return row;
  }

  async list(project: string): Promise<FilmRow[]> {
    const rows = await this.database.getRepository(FilmRow).find({ where: { project }, order: { createdAt: 'DESC' } });
    return rows.map((row) => {
      const known = this.working.get(row.id)?.row ?? row;
      return known.state === 'encoding' && !this.working.has(row.id) ? { ...known, state: 'stopped' } : known;
    });
  }

  async stop(id: string): Promise<void> {
    this.working.get(id)?.worker.postMessage('stop');
  }

  /** Deletes a film and its file; one that is being encoded is stopped first. */
  async remove(id: string): Promise<void> {
    const rows = this.database.getRepository(FilmRow);
    const row = await rows.findOneBy({ id });
    if (!row) throw new UserProblem('not-found', 'This film is no longer there.', 404);
    const ended = this.ended(id);
    await this.stop(id);
    await rows.delete({ id });
    await ended;
    await rm(this.path(row), { force: true });
    const { project, state, encoded, frames } = row;
    this.events.send({ type: 'film', project, film: id, state, encoded, frames });
  }

  /** When the encoder of a film and its half-written file are gone. */
  private ended(id: string): Promise<void> {
    const worker = this.working.get(id)?.worker;
    return new Promise((resolve) => (worker ? worker.once('exit', () => resolve()) : resolve()));
  }

  async removeAllOf(project: string): Promise<void> {
    for (const { id } of await this.list(project)) await this.remove(id);
  }

  async file(id: string): Promise<{ path: string; name: string }> {
    const row = await this.database.getRepository(FilmRow).findOneBy({ id });
    if (row?.state !== 'done') throw new UserProblem('not-found', 'This film is not finished.', 404);
    const name = row.name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'film';
    return { path: this.path(row), name: `${name}.${filmFormat(row.format).extension}` };
  }

  /** Films that were being encoded when the server ended are told as stopped, and what there was of their files is removed. */
  async resume(): Promise<void> {
    for (const file of await readdir(this.folder))
      if (PART.test(file)) await rm(join(this.folder, file), { force: true });
    await this.database
      .getRepository(FilmRow)
      .update(
        { state: 'encoding' },
        { state: 'stopped', failure: 'The server was ended while this film was encoded. Export it again.' },
      )
      .catch((error: unknown) => {
        // Told all the same: see `list`.
        if (!isDiskFull(error)) throw error;
      });
  }

  /** Stops what is being encoded, and waits until encoders and their files are gone. */
  async close(): Promise<void> {
    await Promise.all(
      [...this.working.values()].map(
        ({ worker }) =>
          new Promise<void>((resolve) => {
            worker.once('exit', () => resolve());
            worker.postMessage('stop');
            setTimeout(() => void worker.terminate(), CLOSING).unref();
          }),
      ),
    );
  }

  private path(row: FilmRow): string {
    return join(this.folder, `${row.id}.${filmFormat(row.format).extension}`);
  }

  private async hear(row: FilmRow, message: Encoding): Promise<void> {
    if (message.encoded !== undefined) row.encoded = message.encoded;
    if (message.done) {
      row.state = 'done';
      row.bytes = (await stat(this.path(row))).size;
    }
    if (message.stopped) row.state = 'stopped';
    if (message.failure !== undefined) {
      row.state = 'failed';
      row.failure = `The film could not be encoded: ${message.failure}`;
    }
    if (row.state !== 'encoding') {
      // Updating, not saving: a film that was deleted meanwhile must not come back.
      await this.database
        .getRepository(FilmRow)
        .update({ id: row.id }, row)
        .catch((error: unknown) => {
          if (!isDiskFull(error)) throw error;
        });
      this.working.delete(row.id);
    }
    this.events.send({
      type: 'film',
      project: row.project,
      film: row.id,
      state: row.state,
      encoded: row.encoded,
      frames: row.frames,
    });
  }
}
