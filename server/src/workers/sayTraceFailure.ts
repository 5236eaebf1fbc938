import { UserProblem } from '@zippy/core/document';

/** Why a frame was not rendered, for people: without paths of this machine. */
export function sayTraceFailure(error: unknown): string {
  if (error instanceof UserProblem) return error.message;
  const { code, message } = error as { code?: unknown; message?: unknown };
  if (code === 'ENOENT')
    return 'a file of the scene is missing on the server. Bring it in again, or go back a version.';
  if (code === 'EACCES' || code === 'EIO') return 'a file of the scene cannot be read from the disk of the server.';
  if (
    code === 'ERR_WORKER_OUT_OF_MEMORY' ||
    /out of memory|allocation failed|could not allocate|cannot grow|than the 4 GiB/i.test(String(message))
  )
    return 'the scene and the picture need more memory than there is. Render smaller, or leave out parts or layers.';
  return 'the tracer met a fault of its own. Other frames go on; try this one again, or with other settings.';
}
