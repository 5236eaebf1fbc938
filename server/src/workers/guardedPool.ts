import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { UserProblem } from '@zippy/core/document';
import type { Answer } from './answering';
import { workerFile } from './startWorker';

export interface Guards {
  threads: number;
  /** Longest a task may take that says nothing else. */
  seconds: number;
  /** Most memory of a thread's objects. */
  megabytes: number;
}

/**
 * Threads for work on what comes from outside: a task that takes too long or too much memory ends its thread, and another one takes
 * its place. Each thread does one task at a time.
 */
export class GuardedPool<T extends object> {
  private readonly pool: Piscina;

  constructor(
    worker: string,
    private readonly guards: Guards,
  ) {
    const { file, data } = workerFile(worker);
    this.pool = new Piscina({
      filename: file.href,
      workerData: data,
      minThreads: 0,
      maxThreads: guards.threads,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: guards.megabytes },
    });
  }

  /**
   * @param what is worked on, as the sentence of a failure begins
   * @param seconds the task may take
   * @throws UserProblem what the worker says, or `file-endless`, or `file-broken` where its thread did not survive the task
   */
  async run<R>(task: T, what: string, seconds = this.guards.seconds): Promise<R> {
    const clock = new AbortController();
    // The time of a task does not begin before its thread does.
    let timer: NodeJS.Timeout | undefined;
    const begun = () => (timer = setTimeout(() => clock.abort(), seconds * 1000));
    const channel = new MessageChannel();
    channel.port1.once('message', begun);
    try {
      const answer = (await this.pool.run(
        { ...task, begun: channel.port2 },
        {
          signal: clock.signal,
          transferList: [channel.port2],
        },
      )) as Answer<R>;
      if ('problem' in answer)
        throw new UserProblem(answer.problem.code, answer.problem.message, answer.problem.status);
      return answer.result;
    } catch (error) {
      if (error instanceof UserProblem) throw error;
      if (clock.signal.aborted)
        throw new UserProblem(
          'file-endless',
          `${what} kept the reader busy for ${Math.round(seconds)} seconds without an end, so it was given up. Its data may be damaged: export it again, perhaps in another format.`,
          422,
        );
      throw new UserProblem(
        'file-broken',
        `${what} makes the reader fail; it is damaged or needs more memory than there is. Export it again, perhaps smaller or in another format.`,
        422,
      );
    } finally {
      clearTimeout(timer);
      channel.port1.close();
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
