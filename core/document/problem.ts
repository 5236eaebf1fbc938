/**
 * A refusal with a sentence for the user: what is wrong, why, and what to do.
 * `code` is stable and for programs; `status` is the HTTP status a server answers with.
 */
export class UserProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly status = 400,
  ) {
    super(message);
    this.name = 'UserProblem';
  }
}
