import { spawnSync } from 'node:child_process';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Worker } from 'node:worker_threads';
import type { DataSource } from 'typeorm';
import { inOrder, lookOf, newId, UserProblem } from '@zippy/core/document';
import { encodingSchema, type Encoding } from '@zippy/core/wire';
import { filmFormat, filmFrames, type FilmFormatName, type FilmQuality } from '@zippy/core/reel';
import type { Events } from '../events/events';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { FilmRow } from '../storage/entities';
import { isDiskFull } from '../storage/reserve';
import type { Takes } from '../takes/takes';
import { startWorker } from '../workers/startWorker';

const PART = /\.part\./;
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
    private readonly folder: string,
    private readonly events: Events,
  ) {}

  async create(project: string, format: FilmFormatName, quality: FilmQuality = 'good'): Promise<FilmRow> {
    const ffmpeg = this.encoder;
    if (!ffmpeg && filmFormat(format).encode) {
      throw new UserProblem(
        'encoder-missing',
        'ffmpeg is not installed on this machine, so films cannot be written. Install it (on Debian: apt install ffmpeg), or export PNG frames.',
        501,
      );
    }
    const { name, part } = await this.projects.withPart(project, ['frameRate', 'reel', 'look', 'takeLooks', 'shots']);
    const shown = filmFrames(inOrder(part.reel.clips));
    if (shown.length === 0) throw new UserProblem('reel-empty', 'The reel is empty. Put a take on it first.', 422);
    const frames = [];
    const shots = new Map<string, string>();
    for (const { take, frame } of shown) {
      const { path, before, after } = await this.takes.frameBesides(take, frame);
      let shot = shots.get(take);
      if (shot === undefined) shots.set(take, (shot = (await this.takes.show(take)).shot));
      const look = lookOf(part, shot, take);
      frames.push({ path, before, after, look, lookup: await this.blobs.lookupPath(look) });
    }
    const row: FilmRow = {
      id: newId(),
      project,
      name,
      format,
      state: 'encoding',
      frames: frames.length,
      encoded: 0,
      bytes: 0,
      failure: '',
      createdAt: Date.now(),
    };
    await this.database.getRepository(FilmRow).insert(row);
    const worker = startWorker('filmWorker', {
      format,
      quality,
      frames,
      rate: part.frameRate,
      output: this.path(row),
      ffmpeg: ffmpeg ?? '',
    });
    this.working.set(row.id, { worker, row });
    worker.on('message', (message: unknown) => {
      const { data } = encodingSchema.safeParse(message);
      void this.hear(row, data ?? { failure: 'its thread told something else.' });
    });
    worker.on('error', (error) => void this.hear(row, { failure: error.message }));
    return row;
  }

  /** Enters a film that was made elsewhere; its file is put under its id by the caller. */
  async addFinished(project: string, name: string, file: string): Promise<FilmRow> {
    const { size } = await stat(file);
    const row: FilmRow = {
      id: newId(),
      project,
      name,
      format: 'mp4',
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
