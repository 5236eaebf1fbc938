import type { ErrorRequestHandler } from 'express';
import { ZodError } from 'zod';
import { UserProblem } from '@zippy/core/document';
import { RevisionConflict } from '../projects/projects';
import { errorCode } from '../storage/errorCode';

/** Answers errors as problem details (RFC 9457); `detail` is a sentence for people. */
export const answerProblems: ErrorRequestHandler = (error: unknown, _request, response, next) => {
  if (response.headersSent) return next(error);
  const problem = asProblem(error);
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(
      JSON.stringify({
        type: `urn:zippy-reel:${problem.code}`,
        title: problem.code,
        status: problem.status,
        detail: problem.message,
      }).replace(/\}$/, problem instanceof RevisionConflict ? `,"newer":${newerText(problem)}}` : '}'),
    );
};

const newerText = ({ newer: { id, revision, text } }: RevisionConflict): string =>
  `{"id":${JSON.stringify(id)},"revision":${revision},"document":${text}}`;

function asProblem(error: unknown): UserProblem {
  if (error instanceof UserProblem) return error;
  if (error instanceof ZodError) {
    const issue = error.issues[0];
    return new UserProblem(
      'request-invalid',
      `"${issue?.path.join('.') ?? ''}" in the request cannot be right: ${issue?.message ?? 'it is missing'}.`,
      422,
    );
  }
  const { status, type } = error as { status?: number; type?: string };
  const code = errorCode(error);
  if (code === 'ENOSPC' || code === 'SQLITE_FULL') {
    return new UserProblem(
      'disk-full',
      'The disk is full. Free some space and try again; what was saved before is safe.',
      507,
    );
  }
  if (code === 'ENOENT') return new UserProblem('not-found', 'There is no such file.', 404);
  if (type === 'entity.too.large')
    return new UserProblem(
      'request-too-large',
      'The change is too large to be saved in one step (32 MB at most).',
      413,
    );
  if (type === 'entity.parse.failed') return new UserProblem('request-invalid', 'The request is not valid JSON.', 400);
  if (typeof status === 'number' && status < 500)
    return new UserProblem('request-invalid', 'The request could not be understood.', status);
  console.error(error);
  return new UserProblem(
    'server-failed',
    'Something went wrong in the server; nothing that was saved is lost. Try again.',
    500,
  );
}
