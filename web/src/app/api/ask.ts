import type { z } from 'zod';
import { addressOf, problemSchema, type ParametersOf, type Route } from '@zippy/core/wire';
import { ServerLost, ServerProblem } from './problems';

/**
 * Calls a route of the server.
 * @returns what its schema lets through
 * @throws ServerProblem with the server's sentence, ServerLost where nobody answers
 */
export async function ask<P extends string, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  route: Route<P, Q, B, A>,
  parameters: Record<ParametersOf<P>, string>,
  body?: z.input<B>,
  query?: Readonly<Record<string, string>>,
): Promise<z.output<A>> {
  let response: Response;
  try {
    response = await fetch(addressOf(route, parameters, query), {
      method: route.method.toUpperCase(),
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
  } catch {
    throw new ServerLost();
  }
  const text = await response.text();
  if (!response.ok) throw asProblem(text);
  if (response.status === 204) return undefined as z.output<A>;
  const answer = route.answer.safeParse(parse(text));
  if (!answer.success) throw new ServerProblem({});
  return answer.data;
}

/** JSON, or nothing where it is none. */
export function parse(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

export function asProblem(text: string): ServerProblem {
  const problem = problemSchema.safeParse(parse(text));
  return new ServerProblem(problem.success ? problem.data : {});
}
