import type { Worker } from 'node:worker_threads';
import { newId, UserProblem, type ProjectDocument } from '@zippy/core/document';
import type { ModelSummary, ModelTree, Unit, UpAxis } from '@zippy/core/intake';
import type { Events } from '../events/events';
import type { Blobs } from '../storage/blobs';
import { startWorker } from '../workers/startWorker';

export interface SourceFile {
  name: string;
  hash: string;
}

export interface AcceptedModel {
  /** Content hash of the GLB with the meshes. */
  hash: string;
  sourceHash: string;
  tree: ModelTree;
  /** Pictures that the model's finishes wear, in their order; null where one could not be kept. */
  pictures: ({ name: string; hash: string } | null)[];
}

export interface ImportJob {
  id: string;
  state: 'reading' | 'read' | 'failed' | 'stopped';
  message: string;
  summary: ModelSummary | null;
}

type WorkerAnswer = {
  job: string;
  summary?: ModelSummary;
  accepted?: Omit<AcceptedModel, 'sourceHash'>;
  exported?: Uint8Array;
  code?: string;
  failure?: string;
  status?: number;
};

const PICTURE = /\.(png|jpe?g|webp|tiff?|avif|gif)$/i;

/** Reads files, and writes scenes, in one worker that keeps the CAD kernel warm. Stopping a read ends the worker; the next one starts it anew. */
export class Imports {
  private worker: Worker | null = null;
  private readonly jobs = new Map<string, ImportJob & { source: SourceFile }>();
  private readonly waiting = new Map<string, (answer: WorkerAnswer) => void>();

  constructor(
    private readonly blobs: Blobs,
    private readonly events: Events,
    private readonly folder: string,
  ) {}

  /** Starts reading the model among the files; its MTL and pictures come along. */
  start(files: SourceFile[]): ImportJob {
    const source = files.find((file) => !/\.mtl$/i.test(file.name) && !PICTURE.test(file.name)) ?? files[0];
    if (!source)
      throw new UserProblem('file-missing', 'No file came with the request. Drop a STEP, STL, OBJ or GLB file.', 400);
    const mtl = files.find((file) => /\.mtl$/i.test(file.name));
    const id = newId();
    const job = { id, state: 'reading' as const, message: '', summary: null, source };
    this.jobs.set(id, job);
    const paths = {
      path: this.blobs.path(source.hash),
      name: source.name,
      mtl: mtl ? this.blobs.path(mtl.hash) : null,
      pictures: files
        .filter((file) => PICTURE.test(file.name))
        .map((file) => ({ name: file.name, path: this.blobs.path(file.hash) })),
    };
    void this.ask(id, { type: 'read', job: id, ...paths }).then((answer) => {
      if (this.jobs.get(id)?.state !== 'reading') return;
      if (answer.summary) this.change(id, { state: 'read', summary: answer.summary });
      else this.change(id, { state: 'failed', message: answer.failure ?? 'The file could not be read.' });
    });
    return this.show(id);
  }

  show(id: string): ImportJob {
    const { state, message, summary } = this.find(id);
    return { id, state, message, summary };
  }

  /** Ends a read at once. */
  async stop(id: string): Promise<void> {
    if (this.find(id).state !== 'reading') return;
    this.change(id, { state: 'stopped', message: 'Reading was stopped.' });
    await this.worker?.terminate();
    this.worker = null;
  }

  /** Writes the model that was read as a GLB in millimetres and Y up, and gives its tree. */
  async accept(id: string, unit: Unit, up: UpAxis): Promise<AcceptedModel> {
    const job = this.find(id);
    if (job.state !== 'read')
      throw new UserProblem('import-not-ready', 'This file has not been read yet. Wait, or drop it again.', 409);
    const answer = await this.ask(`${id}/accept`, {
      type: 'accept',
      job: `${id}/accept`,
      read: id,
      unit,
      up,
      folder: this.folder,
    });
    if (!answer.accepted)
      throw new UserProblem(
        answer.code ?? 'import-failed',
        answer.failure ?? 'The model could not be kept.',
        answer.status ?? 500,
      );
    this.jobs.delete(id);
    return { ...answer.accepted, sourceHash: job.source.hash };
  }

  /** The resting scene as a GLB that other programs read. */
  async exportScene(document: ProjectDocument): Promise<Uint8Array> {
    const job = newId();
    const files = this.blobs.assetPaths(document);
    const answer = await this.ask(job, { type: 'export', job, document, files });
    if (!answer.exported)
      throw new UserProblem('export-failed', answer.failure ?? 'The scene could not be written.', answer.status ?? 500);
    return answer.exported;
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }

  private find(id: string): ImportJob & { source: SourceFile } {
    const job = this.jobs.get(id);
    if (!job)
      throw new UserProblem(
        'not-found',
        'This import is no longer there, perhaps because the server was started again. Drop the file once more.',
        404,
      );
    return job;
  }

  private change(id: string, over: Partial<ImportJob>): void {
    const job = this.jobs.get(id);
    if (!job) return;
    Object.assign(job, over);
    this.events.send({ type: 'import', import: id, state: job.state, message: job.message });
  }

  private ask(key: string, message: object): Promise<WorkerAnswer> {
    return new Promise((resolve) => {
      this.waiting.set(key, resolve);
      this.startWorker().postMessage(message);
    });
  }

  private startWorker(): Worker {
    if (this.worker) return this.worker;
    const worker = startWorker('importWorker', {}, { resourceLimits: { maxOldGenerationSizeMb: 8192 } });
    worker.on('message', (answer: WorkerAnswer) => {
      this.waiting.get(answer.job)?.(answer);
      this.waiting.delete(answer.job);
    });
    const fail = (why: string) => {
      if (this.worker === worker) this.worker = null;
      for (const [job, resolve] of this.waiting) resolve({ job, code: 'import-failed', failure: why, status: 422 });
      this.waiting.clear();
    };
    worker.on('error', () =>
      fail('The file could not be read: its data makes the reader fail. Export it again, perhaps in another format.'),
    );
    worker.on('exit', () => fail('Reading was stopped.'));
    this.worker = worker;
    return worker;
  }
}
