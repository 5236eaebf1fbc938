import type { MessagePort } from 'node:worker_threads';
import { UserProblem } from '@zippy/core/document';

/** What a task gives, or the problem it met: errors lose their kind on their way between threads. */
export type Answer<R> = { result: R } | { problem: { code: string; message: string; status: number } };

/** A task of a pool with a word on when it begins. */
export type Begun<T> = T & { begun: MessagePort };

/** Makes a pool's worker of a function: says when it begins, and answers problems as such. */
export const answering =
  <T extends object, R>(work: (task: T) => Promise<R> | R) =>
  async ({ begun, ...task }: Begun<T>): Promise<Answer<R>> => {
    begun.postMessage('begun');
    begun.close();
    try {
      return { result: await work(task as unknown as T) };
    } catch (error) {
      if (error instanceof UserProblem)
        return { problem: { code: error.code, message: error.message, status: error.status } };
      throw error;
    }
  };
