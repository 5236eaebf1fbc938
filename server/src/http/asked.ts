import type { Response } from 'express';
import { lookSchema, UserProblem, type Look } from '@zippy/core/document';

/** A look as JSON, as it goes in an address. @throws UserProblem `request-invalid` */
export function readLook(text: string | undefined): Look {
  try {
    return lookSchema.parse(JSON.parse(text!));
  } catch {
    throw new UserProblem('request-invalid', 'The request says no look to develop the frame with.', 422);
  }
}

/** Aborted when nobody waits for the answer any more. */
export function abandonedWith(response: Response): AbortSignal {
  const abandoned = new AbortController();
  response.on('close', () => abandoned.abort());
  return abandoned.signal;
}
