import type { Worker } from 'node:worker_threads';
import { newId, UserProblem } from '@zippy/core/document';
import { footageNewsSchema, type FootageJob, type FootageNews, type StoredFile } from '@zippy/core/wire';
import type { Blobs } from '../storage/blobs';
import { startWorker } from '../workers/startWorker';

/** Clips that are read at once; others wait. */
const MOST_AT_ONCE = 1;
/** Jobs that have ended and are still told of. */
const MOST_KEPT = 50;

interface Reading {
  job: FootageJob;
  files: StoredFile[];
  rate: number;
  worker: Worker | null;
}

/** Takes moving pictures apart into frames, each kept by its content, in a thread of its own. */
export class Footages {
  private readonly readings = new Map<string, Reading>();

  /** @param folder of the blobs @param decoder program that reads films, null where there is none */
  constructor(
    private readonly blobs: Blobs,
    private readonly folder: string,
    private readonly decoder: string | null,
  ) {}

  /** @param rate of pictures that follow each other, frames a second */
  start(files: StoredFile[], rate: number): FootageJob {
    const id = newId();
    const job: FootageJob = { id, state: 'reading', frames: 0, of: null, message: '', footage: null };
    this.readings.set(id, { job, files, rate, worker: null });
    for (const [old, { job: each }] of this.readings)
      if (this.readings.size > MOST_KEPT && each.state !== 'reading') this.readings.delete(old);
    this.next();
    return job;
  }

  show(id: string): FootageJob {
    return this.find(id).job;
  }

  async stop(id: string): Promise<void> {
    const reading = this.find(id);
    if (reading.job.state !== 'reading') return;
    await this.end(reading, { state: 'stopped', message: 'Reading was stopped.' });
  }

  async close(): Promise<void> {
    for (const reading of this.readings.values())
      if (reading.job.state === 'reading') await this.end(reading, { state: 'stopped', message: 'The server ended.' });
  }

  private next(): void {
    const waiting = [...this.readings.values()].filter(({ job }) => job.state === 'reading');
    if (waiting.filter(({ worker }) => worker).length >= MOST_AT_ONCE) return;
    const reading = waiting.find(({ worker }) => !worker);
    if (!reading) return;
    const { files, rate } = reading;
    const sources = files.map(({ name, hash }) => ({ name, path: this.blobs.path(hash) }));
    const worker = startWorker('footageWorker', { sources, rate, folder: this.folder, decoder: this.decoder });
    reading.worker = worker;
    worker.on('message', (message: unknown) => {
      const { data } = footageNewsSchema.safeParse(message);
      this.hear(reading, data ?? { failure: 'The thread that reads it told something else.' });
    });
    worker.on('error', (error) => this.hear(reading, { failure: `It makes the reader fail: ${error.message}` }));
    worker.on('exit', () => this.hear(reading, { failure: 'Its reader ended before its end. Bring it in again.' }));
  }

  private hear(reading: Reading, news: FootageNews): void {
    if (reading.job.state !== 'reading') return;
    if ('frames' in news) reading.job = { ...reading.job, ...news };
    else if ('footage' in news) void this.end(reading, { state: 'read', footage: news.footage });
    else void this.end(reading, { state: 'failed', message: news.failure });
  }

  private async end(reading: Reading, over: Partial<FootageJob>): Promise<void> {
    reading.job = { ...reading.job, ...over };
    const { worker } = reading;
    reading.worker = null;
    // A thread that is told to stop ends the program that it waits for.
    if (worker && over.state === 'stopped') worker.postMessage('stop');
    this.next();
  }

  private find(id: string): Reading {
    const reading = this.readings.get(id);
    if (!reading) throw new UserProblem('not-found', 'This clip is not being read any more. Bring it in again.', 404);
    return reading;
  }
}
