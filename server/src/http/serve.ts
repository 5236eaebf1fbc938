import type { Response, Router } from 'express';
import type { z } from 'zod';
import type { ParametersOf, Route } from '@zippy/core/wire';

/** A request that has been looked through. */
interface Asked<P extends string, Q, B> {
  parameters: Record<ParametersOf<P>, string>;
  query: Q;
  body: B;
  response: Response;
}

/** JSON that is text already, as it is stored: it is sent as it is. */
export class Text {
  constructor(readonly text: string) {}
}

type Work<P extends string, Q extends z.ZodType, B extends z.ZodType, R> = (
  asked: Asked<P, z.output<Q>, z.output<B>>,
) => Promise<R> | R;

/** Answers a route. What is asked is checked against its schemas, and what goes out holds no more than they say. */
export function serve<P extends string, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  router: Router,
  route: Route<P, Q, B, A>,
  work: Work<P, Q, B, z.input<A> | Text>,
): void {
  serveItself(router, route, async (asked) => {
    const answer = await work(asked);
    const response = asked.response.status(route.status);
    if (answer instanceof Text) response.type('json').send(answer.text);
    else if (answer === undefined) response.end();
    else response.json(route.answer.parse(answer));
  });
}

/** Answers a route with something that is no JSON, such as a file: the work sends it. */
export function serveItself<P extends string, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  router: Router,
  route: Route<P, Q, B, A>,
  work: Work<P, Q, B, unknown>,
): void {
  router[route.method](route.path, async (request, response) => {
    await work({
      parameters: request.params as Record<ParametersOf<P>, string>,
      query: route.query.parse(request.query),
      body: route.body.parse(request.body),
      response,
    });
  });
}
