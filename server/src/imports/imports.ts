import type { Worker } from 'node:worker_threads';
import { newId, UserProblem, type Asset, type ProjectDocument, type Recipe } from '@zippy/core/document';
import type { ShapeSignature } from '@zippy/core/geometry';
import { FORMAT_LIST, groupFiles, type ModelSummary, type ModelTree } from '@zippy/core/intake';
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
  /** Files that came along with the source and were looked through for what it names. */
  companions: SourceFile[];
  found: Asset['found'];
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

export interface RebuiltModel {
  hash: string;
  found: Asset['found'];
}

export interface Comparison {
  before: ShapeSignature[];
  after: ShapeSignature[];
}

type Job = ImportJob & { source: SourceFile; companions: SourceFile[] };

type WorkerAnswer = {
  job: string;
  summary?: ModelSummary;
  portrayed?: Uint8Array;
  accepted?: Omit<AcceptedModel, 'sourceHash' | 'companions'>;
  rebuilt?: RebuiltModel & { meshes: number };
  compared?: Comparison;
  drawn?: Uint8Array;
  unpacked?: SourceFile[];
  exported?: Uint8Array;
  code?: string;
  failure?: string;
  status?: number;
};

/** Reads files, and writes scenes, in one worker that keeps the CAD kernel warm. Stopping a read ends the worker; the next one starts it anew. */
export class Imports {
  private worker: Worker | null = null;
  private readonly jobs = new Map<string, Job>();
  private readonly waiting = new Map<string, (answer: WorkerAnswer) => void>();

  constructor(
    private readonly blobs: Blobs,
    private readonly events: Events,
    private readonly folder: string,
  ) {}

  /** Starts reading the model among the files; what it may need comes along. */
  start(files: SourceFile[]): ImportJob {
    const [group] = groupFiles(files.map(({ name }) => name)).models;
    const source = group ? files[group.file] : files[0];
    if (!source) throw new UserProblem('file-missing', `No file came with the request. Drop a ${FORMAT_LIST}.`, 400);
    const companions = group ? group.companions.map((at) => files[at]!) : [];
    const id = newId();
    this.jobs.set(id, { id, state: 'reading', message: '', summary: null, source, companions });
    const message = { type: 'read', job: id, source: this.stored(source), companions: companions.map(this.stored) };
    void this.ask(id, message).then((answer) => {
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
  async accept(id: string, recipe: Recipe): Promise<AcceptedModel> {
    const { state, source, companions } = this.find(id);
    if (state !== 'read')
      throw new UserProblem('import-not-ready', 'This file has not been read yet. Wait, or drop it again.', 409);
    const { accepted } = await this.want('accepted', { type: 'accept', read: id, recipe, folder: this.folder });
    this.jobs.delete(id);
    return { ...accepted, sourceHash: source.hash, companions };
  }

  /** A small PNG of the model that was read, with an axis upright and turned by quarters. */
  async portray(id: string, up: Recipe['up'], front: number): Promise<Uint8Array> {
    this.find(id);
    return (await this.want('portrayed', { type: 'portray', read: id, up, front })).portrayed;
  }

  /**
   * Makes the file of a model again from its source, with other choices for tessellation, creases and mends.
   * @param meshes how many meshes the model's parts count on
   */
  async rebuild(source: SourceFile, companions: SourceFile[], recipe: Recipe, meshes: number): Promise<RebuiltModel> {
    const files = { source: this.stored(source), companions: companions.map(this.stored) };
    const { rebuilt } = await this.want('rebuilt', { type: 'rebuild', ...files, recipe, folder: this.folder });
    if (rebuilt.meshes < meshes) {
      throw new UserProblem(
        'model-changed',
        'The source gives fewer meshes than the parts of the project use, so nothing was changed. Bring the file in anew.',
        409,
      );
    }
    return { hash: rebuilt.hash, found: rebuilt.found };
  }

  /** By what the meshes of two models are known again, in their order. */
  async compare(before: string, after: string): Promise<Comparison> {
    const files = { before: this.blobs.path(before), after: this.blobs.path(after) };
    return (await this.want('compared', { type: 'compare', ...files })).compared;
  }

  /** A small PNG of one mesh of a model. */
  async drawMesh(model: string, mesh: number): Promise<Uint8Array> {
    return (await this.want('drawn', { type: 'draw', model: this.blobs.path(model), mesh })).drawn;
  }

  /** The files of an archive, each kept on its own. */
  async unpack(source: SourceFile): Promise<SourceFile[]> {
    const message = { type: 'unpack', source: this.stored(source), folder: this.folder };
    return (await this.want('unpacked', message)).unpacked;
  }

  /** The resting scene as a GLB that other programs read. */
  async exportScene(document: ProjectDocument): Promise<Uint8Array> {
    const files = this.blobs.assetPaths(document);
    return (await this.want('exported', { type: 'export', document, files })).exported;
  }

  private readonly stored = ({ name, hash }: SourceFile) => ({ name, path: this.blobs.path(hash) });

  /** Asks the worker for one thing. @throws UserProblem with what it answers instead */
  private async want<K extends keyof WorkerAnswer>(what: K, message: object): Promise<Required<Pick<WorkerAnswer, K>>> {
    const job = newId();
    const answer = await this.ask(job, { ...message, job });
    if (answer[what] !== undefined) return answer as WorkerAnswer & Required<Pick<WorkerAnswer, K>>;
    const { code, failure, status } = answer;
    throw new UserProblem(code ?? 'import-failed', failure ?? 'The file could not be read.', status ?? 500);
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }

  private find(id: string): Job {
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
