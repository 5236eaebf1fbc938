import { UserProblem } from '@zippy/core/document';
import type { Answer } from '../workers/answering';
import type { Developed, DevelopRequest } from '../workers/developWorker';

interface Waiting {
  request: DevelopRequest;
  abandoned: AbortSignal | undefined;
  resolve: (developed: Developed) => void;
  reject: (error: unknown) => void;
}

/** Develops frames, some at once. The one asked for last is the one that is looked at, so it is next; what nobody waits for is left out. */
export class Darkrooms {
  private readonly waiting: Waiting[] = [];
  private busy = 0;

  constructor(
    private readonly work: (request: DevelopRequest) => Promise<Answer<Developed>>,
    private readonly most: number,
  ) {}

  develop(request: DevelopRequest, abandoned?: AbortSignal): Promise<Developed> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ request, abandoned, resolve, reject });
      this.go();
    });
  }

  private go(): void {
    while (this.busy < this.most) {
      const next = this.waiting.pop();
      if (!next) return;
      if (next.abandoned?.aborted) {
        next.reject(new UserProblem('abandoned', 'Nobody waits for this frame any more.', 499));
        continue;
      }
      this.busy++;
      void this.work(next.request)
        .then((answer) => {
          if ('result' in answer) next.resolve(answer.result);
          else next.reject(new UserProblem(answer.problem.code, answer.problem.message, answer.problem.status));
        }, next.reject)
        .finally(() => {
          this.busy--;
          this.go();
        });
    }
  }
}
