import { setImmediate as breathe } from 'node:timers/promises';
import type { Worker } from 'node:worker_threads';
import { openDocument } from '@zippy/core/document';
import type { RenderSettings } from '@zippy/core/trace';
import { planAnswerSchema, type PlanAnswer } from '@zippy/core/wire';
import { startWorker } from '../workers/startWorker';
import { loops, planFrames } from './plan';

export interface PlanRequest {
  /** The document as text. */
  document: string;
  shot: string;
  frames: number[];
  settings: RenderSettings;
}

/** Names the frames of takes, which takes milliseconds for each. */
export interface Planner {
  /**
   * @param hear gets names as they are found, in the order of the frames; false stops it
   * @throws Error where the document cannot be evaluated
   */
  plan(request: PlanRequest, hear: (identities: string[]) => boolean): Promise<void>;
  /** Whether the shot's frame after the last one is its first again. */
  loops(request: Omit<PlanRequest, 'frames'>): Promise<boolean>;
  close(): Promise<void>;
}

/** Most names that are told at once, and how many of the first: rendering begins with them. */
const CHUNK = 64;
const FIRST_CHUNK = 2;

/** In this very thread, for tests: takes a breath now and then. */
export const planHere: Planner = {
  async plan({ document, ...job }, hear) {
    let chunk: string[] = [];
    let most = FIRST_CHUNK;
    for (const identity of planFrames({ document: openDocument(JSON.parse(document)), ...job })) {
      chunk.push(identity);
      if (chunk.length < most) continue;
      if (!hear(chunk)) return;
      chunk = [];
      most = CHUNK;
      await breathe();
    }
    if (chunk.length > 0) hear(chunk);
  },
  async loops({ document, shot, settings }) {
    const opened = openDocument(JSON.parse(document));
    return loops(opened, opened.shots[shot]!, settings);
  },
  async close() {},
};

/** In a thread for each plan, so that one that is stopped, or never ends, holds up no other. */
export class PlanThreads implements Planner {
  private readonly working = new Set<Worker>();

  async plan(request: PlanRequest, hear: (identities: string[]) => boolean): Promise<void> {
    await this.ask(request, (answer) => ('names' in answer ? hear(answer.names) : true));
  }

  async loops(request: Omit<PlanRequest, 'frames'>): Promise<boolean> {
    let found = false;
    await this.ask({ ...request, frames: null }, (answer) => {
      if ('loops' in answer) found = answer.loops;
      return true;
    });
    return found;
  }

  async close(): Promise<void> {
    await Promise.all([...this.working].map((worker) => worker.terminate()));
  }

  private ask(request: object, hear: (answer: PlanAnswer) => boolean): Promise<void> {
    const worker = startWorker('planWorker', request);
    this.working.add(worker);
    return new Promise<void>((resolve, reject) => {
      worker.on('message', (message: unknown) => {
        const { data: answer } = planAnswerSchema.safeParse(message);
        if (!answer) reject(new Error('The thread that names frames told something else.'));
        else if ('failure' in answer) reject(new Error(answer.failure));
        else if ('end' in answer) resolve();
        else if (!hear(answer)) {
          resolve();
          void worker.terminate();
        }
      });
      worker.on('error', reject);
      worker.on('exit', () => resolve());
    }).finally(() => this.working.delete(worker));
  }
}
