import { availableParallelism } from 'node:os';
import type { Worker } from 'node:worker_threads';
import type { RenderSettings } from '@zippy/core/trace';
import { traceAnswerSchema, type TraceAnswer } from '@zippy/core/wire';
import { sayTraceFailure } from './sayTraceFailure';
import { startWorker } from './startWorker';

export interface TraceRequest {
  id: number;
  /** The document as text, and the frame of a shot in it. */
  document: string;
  shot: string;
  frame: number;
  settings: RenderSettings;
  identity: string;
  /** Where the frame goes; null only measures it, small and for a moment. */
  output: string | null;
  /** Paths of models by content hash, and of surroundings and pictures by asset id. */
  files: Record<string, string>;
}

/** Leaves one core for the page where there are more than two. */
export function workerCount(): number {
  const cores = availableParallelism();
  return cores > 2 ? cores - 1 : cores;
}

/** Milliseconds that a frame may take to leave after it was stopped; then its thread is ended. */
const PATIENCE = 8000;

interface Asked {
  request: TraceRequest;
  resolve: (answer: TraceAnswer) => void;
  tell: (part: number) => void;
}

/**
 * The server's one tracer: frames go in one after another, each rendered on all its workers. A frame that fails takes its thread with
 * it, as nobody knows what state it leaves behind; the next one begins in a new thread.
 */
export class Tracer {
  private worker: Worker | null = null;
  private next = 1;
  /** The first is at work. */
  private readonly queue: Asked[] = [];
  private clock: NodeJS.Timeout | undefined;

  constructor(private readonly workers = workerCount()) {}

  /**
   * Renders one frame into a file. A stopped frame answers `stopped`; what there is of it is kept beside its file, and rendering it
   * again goes on there.
   * @param tell hears now and then which part of the frame is done
   */
  trace(request: Omit<TraceRequest, 'id'>, tell: (part: number) => void = () => undefined): Promise<TraceAnswer> {
    return new Promise((resolve) => {
      this.queue.push({ request: { ...request, id: this.next++ }, resolve, tell });
      if (this.queue.length === 1) this.sendFirst();
    });
  }

  /** Leaves the present frame after the tiles in work: well under a second. */
  stop(): void {
    const [first] = this.queue;
    if (!first) return;
    this.worker?.postMessage('stop');
    clearTimeout(this.clock);
    this.clock = setTimeout(() => {
      if (this.queue[0] !== first) return;
      this.replace();
      this.answer({ id: first.request.id, stopped: true });
    }, PATIENCE);
    this.clock.unref();
  }

  async close(): Promise<void> {
    clearTimeout(this.clock);
    const { worker } = this;
    this.worker = null;
    for (const { request, resolve } of this.queue.splice(0)) resolve({ id: request.id, stopped: true });
    await worker?.terminate();
  }

  private sendFirst(): void {
    const [first] = this.queue;
    if (first) this.start().postMessage(first.request);
  }

  private answer(answer: TraceAnswer): void {
    if (this.queue[0]?.request.id !== answer.id) return;
    clearTimeout(this.clock);
    const { resolve } = this.queue.shift()!;
    resolve(answer);
    this.sendFirst();
  }

  private replace(): void {
    const { worker } = this;
    this.worker = null;
    void worker?.terminate();
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = startWorker('tracerWorker', { workers: this.workers });
    const ended = (failure: string) => {
      if (this.worker !== worker) return;
      this.worker = null;
      const [first] = this.queue;
      if (first) this.answer({ id: first.request.id, failure });
    };
    worker.on('message', (message: unknown) => {
      if (this.worker !== worker) return;
      const { data: answer } = traceAnswerSchema.safeParse(message);
      if (!answer) return ended('the tracer answered something else.');
      if (answer.progress !== undefined) {
        const [first] = this.queue;
        if (first?.request.id === answer.id) first.tell(answer.progress);
        return;
      }
      if (answer.failure !== undefined && answer.code === undefined) this.replace();
      this.answer(answer);
    });
    worker.on('error', (error) => ended(sayTraceFailure(error)));
    worker.on('exit', () => ended('the tracer was ended.'));
    this.worker = worker;
    return worker;
  }
}
