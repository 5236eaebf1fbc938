import { newId, UserProblem, type ProjectDocument, type Recipe } from '@zippy/core/document';
import { FORMAT_LIST, groupFiles, isFinishFile } from '@zippy/core/intake';
import {
  readerAnswerSchema,
  type AcceptedModel,
  type Comparison,
  type FinishForm,
  type ImportJob,
  type ReadFinishes,
  type ReaderAnswer,
  type RebuiltModel,
  type StoredFile,
} from '@zippy/core/wire';
import type { Events } from '../events/events';
import type { Blobs } from '../storage/blobs';
import { startProcess, type WorkingProcess } from '../workers/startProcess';

/** How long a file may keep the reader before it is given up. */
export interface Patience {
  seconds: number;
  secondsPerMegabyte: number;
}

/** What the worker was asked and has not answered yet. */
interface Asked {
  message: object;
  /** The file it is about, for the sentence where it is given up. */
  name: string;
  resolve: (answer: ReaderAnswer) => void;
  clock?: NodeJS.Timeout;
}

/** Most memory in megabytes that a model may take besides the CAD kernel's own. */
const MOST_MEMORY = 8192;

type Job = ImportJob & { source: StoredFile; companions: StoredFile[] };

/**
 * Reads files, and writes scenes, in one process that keeps the CAD kernel warm and is asked for one thing at a time. A read that is
 * stopped, or that takes longer than its file can explain, ends the worker; what else waits goes to a new one.
 */
export class Imports {
  private worker: WorkingProcess | null = null;
  private readonly jobs = new Map<string, Job>();
  /** Models whose files are being written: what the worker was asked for them. */
  private readonly placing = new Map<string, string>();
  /** The first is what the worker works on; the others have not been sent to it. */
  private readonly waiting = new Map<string, Asked>();

  constructor(
    private readonly blobs: Blobs,
    private readonly events: Events,
    private readonly folder: string,
    private readonly patience: Patience = { seconds: 30, secondsPerMegabyte: 30 },
  ) {}

  /** Starts reading the model among the files; what it may need comes along. */
  start(files: StoredFile[]): ImportJob {
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

  /** Ends a read, or the writing of what was read, at once. */
  async stop(id: string): Promise<void> {
    const { state } = this.find(id);
    if (state === 'read') {
      this.jobs.delete(id);
      const job = this.placing.get(id);
      if (job) await this.giveUp({ job, code: 'import-stopped', failure: 'Placing was stopped.', status: 409 });
      return;
    }
    if (state !== 'reading') return;
    this.change(id, { state: 'stopped', message: 'Reading was stopped.' });
    await this.giveUp({ job: id, failure: 'Reading was stopped.' });
  }

  /** Writes the model that was read as a GLB in millimetres and Y up, and gives its tree. */
  async accept(id: string, recipe: Recipe): Promise<AcceptedModel> {
    const { state, source, companions } = this.find(id);
    if (state !== 'read')
      throw new UserProblem('import-not-ready', 'This file has not been read yet. Wait, or drop it again.', 409);
    const job = newId();
    this.placing.set(id, job);
    try {
      const message = { type: 'accept', read: id, recipe, folder: this.folder };
      const { accepted } = await this.want('accepted', message, job);
      this.jobs.delete(id);
      return { ...accepted, sourceHash: source.hash, companions };
    } finally {
      this.placing.delete(id);
    }
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
  async rebuild(source: StoredFile, companions: StoredFile[], recipe: Recipe, meshes: number): Promise<RebuiltModel> {
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
  async unpack(source: StoredFile): Promise<StoredFile[]> {
    const message = { type: 'unpack', source: this.stored(source), folder: this.folder };
    return (await this.want('unpacked', message)).unpacked;
  }

  /** The finishes of the first file, which may name the others. */
  async readFinishes(files: StoredFile[]): Promise<ReadFinishes> {
    const at = files.findIndex(({ name }) => isFinishFile(name) || /\.(glb|gltf)$/i.test(name));
    if (at < 0)
      throw new UserProblem(
        'file-missing',
        'None of these files holds finishes. Choose a MaterialX, GLB or glTF file.',
        415,
      );
    const companions = files.filter((_, k) => k !== at).map(this.stored);
    const message = { type: 'finishes', source: this.stored(files[at]!), companions, folder: this.folder };
    return (await this.want('finishes', message)).finishes;
  }

  /** One finish of a document as an open file. @param text the document as it is stored */
  async packFinish(
    text: string,
    assets: Pick<ProjectDocument, 'assets'>,
    finish: string,
    form: FinishForm,
  ): Promise<Uint8Array> {
    const message = { type: 'pack', text, finish, form, files: this.blobs.assetPaths(assets) };
    return (await this.want('exported', message)).exported;
  }

  /** The resting scene of a document as a GLB that other programs read. @param text the document as it is stored */
  async exportScene(text: string, assets: Pick<ProjectDocument, 'assets'>): Promise<Uint8Array> {
    const files = this.blobs.assetPaths(assets);
    return (await this.want('exported', { type: 'export', text, files })).exported;
  }

  private readonly stored = ({ name, hash }: StoredFile) => ({ name, path: this.blobs.path(hash) });

  /** Asks the worker for one thing. @throws UserProblem with what it answers instead */
  private async want<K extends keyof ReaderAnswer>(
    what: K,
    message: object,
    job = newId(),
  ): Promise<Required<Pick<ReaderAnswer, K>>> {
    const answer = await this.ask(job, { ...message, job });
    if (answer[what] !== undefined) return answer as ReaderAnswer & Required<Pick<ReaderAnswer, K>>;
    const { code, failure, status } = answer;
    throw new UserProblem(code ?? 'import-failed', failure ?? 'The file could not be read.', status ?? 500);
  }

  async close(): Promise<void> {
    const { worker } = this;
    this.worker = null;
    const asked = [...this.waiting.entries()];
    this.waiting.clear();
    for (const [job, { resolve, clock }] of asked) {
      clearTimeout(clock);
      resolve({ job, failure: 'Reading was stopped.' });
    }
    await worker?.end();
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

  private ask(job: string, message: object): Promise<ReaderAnswer> {
    return new Promise((resolve) => {
      const { source } = message as { source?: { name: string } };
      this.waiting.set(job, { message, name: source ? `"${source.name}"` : 'The file', resolve });
      if (this.waiting.size === 1) this.sendFirst();
    });
  }

  private sendFirst(): void {
    const [first] = this.waiting.values();
    if (first) this.startWorker().send(first.message);
  }

  /** Takes a job off the list with its answer, and goes on with the next. */
  private answer(answer: ReaderAnswer): void {
    const asked = this.waiting.get(answer.job);
    if (!asked) return;
    const [first] = this.waiting.keys();
    clearTimeout(asked.clock);
    this.waiting.delete(answer.job);
    asked.resolve(answer);
    if (first === answer.job) this.sendFirst();
  }

  /** Answers a job in the place of the worker, or as its last word; where the worker is at it, a new one goes on with the next. */
  private async giveUp(answer: ReaderAnswer): Promise<void> {
    const [first] = this.waiting.keys();
    const worker = first === answer.job ? this.worker : null;
    if (worker) this.worker = null;
    this.answer(answer);
    await worker?.end();
  }

  /** Gives the job up when its file has had the time that a sound one of its size takes at most. */
  private watch(job: string, bytes: number): void {
    const asked = this.waiting.get(job);
    if (!asked) return;
    clearTimeout(asked.clock);
    const seconds = this.patience.seconds + (this.patience.secondsPerMegabyte * bytes) / 1e6;
    asked.clock = setTimeout(() => {
      const failure = `${asked.name} kept the reader busy for ${Math.round(seconds)} seconds without an end, so it was given up. Its data may be damaged: export it again, perhaps in another format.`;
      void this.giveUp({ job, code: 'file-endless', failure, status: 422 });
    }, seconds * 1000);
    asked.clock.unref();
  }

  private startWorker(): WorkingProcess {
    if (this.worker) return this.worker;
    const hear = (message: unknown) => {
      const { data: answer } = readerAnswerSchema.safeParse(message);
      // What tells something else is in no state to go on with.
      if (!answer) ended();
      else if (answer.reading !== undefined) this.watch(answer.job, answer.reading);
      else if (answer.spent) void this.giveUp(answer);
      else this.answer(answer);
    };
    // The first that waits is what it ended on. One that was replaced ends on purpose.
    const ended = () => {
      if (this.worker !== worker) return;
      const [job] = this.waiting.keys();
      const failure =
        'The file could not be read: its data makes the reader fail. Export it again, perhaps in another format.';
      if (job) void this.giveUp({ job, code: 'import-failed', failure, status: 422 });
      else this.worker = null;
    };
    const worker = startProcess('importWorker', MOST_MEMORY, hear, ended);
    this.worker = worker;
    return worker;
  }
}
