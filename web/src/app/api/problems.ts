import type { Problem } from '@zippy/core/wire';

/** A refusal of the server: its sentence, and what came along. */
export class ServerProblem extends Error {
  constructor(readonly problem: Partial<Problem>) {
    super(problem.detail ?? 'The server gave no usable answer. Try again.');
  }

  get code(): string {
    return this.problem.title ?? 'server-failed';
  }

  /** Of the HTTP answer. */
  get status(): number {
    return this.problem.status ?? 500;
  }
}

/** The server could not be reached at all. */
export class ServerLost extends Error {
  constructor() {
    super('The server does not answer. Your changes are kept here and sent when it is back.');
  }
}
