import { availableParallelism } from 'node:os';
import type { Worker } from 'node:worker_threads';
import type { FrameState } from '@zippy/core/motion';
import type { Probe, RenderSettings } from '@zippy/core/trace';
import { startWorker } from './startWorker';

export interface TraceRequest {
  id: number;
  state: FrameState;
  settings: RenderSettings;
  identity: string;
  /** Where the frame goes; null only measures it, small and for a moment. */
  output: string | null;
  /** Paths of models by content hash, and of surroundings and pictures by asset id. */
  files: Record<string, string>;
}

export interface TraceAnswer {
  id: number;
  stopped?: true;
  failure?: string;
  /** Code of a system error, such as ENOSPC. */
  code?: string;
  probe?: Probe;
  kernelMilliseconds?: number;
  milliseconds?: number;
}

/** Leaves one core for the page where there are more than two. */
export function workerCount(): number {
  const cores = availableParallelism();
  return cores > 2 ? cores - 1 : cores;
}

/** The server's one tracer: frames go in one after another, each rendered on all its workers. */
export class Tracer {
  private worker: Worker | null = null;
  private next = 1;
  private readonly waiting = new Map<number, (answer: TraceAnswer) => void>();

  constructor(private readonly workers = workerCount()) {}

  /** Renders one frame into a file. A stopped frame answers `stopped` and leaves no file. */
  trace(request: Omit<TraceRequest, 'id'>): Promise<TraceAnswer> {
    const id = this.next++;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      this.start().postMessage({ ...request, id });
    });
  }

  /** Leaves the present frame after the tiles in work: well under a second. */
  stop(): void {
    this.worker?.postMessage('stop');
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = null;
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = startWorker('tracerWorker', { workers: this.workers });
    worker.on('message', (answer: TraceAnswer) => {
      this.waiting.get(answer.id)?.(answer);
      this.waiting.delete(answer.id);
    });
    const fail = (failure: string) => {
      if (this.worker === worker) this.worker = null;
      for (const [id, resolve] of this.waiting) resolve({ id, failure });
      this.waiting.clear();
    };
    worker.on('error', (error) => fail(error.message));
    worker.on('exit', () => fail('the tracer was ended'));
    this.worker = worker;
    return worker;
  }
}
