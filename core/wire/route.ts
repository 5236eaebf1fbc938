import * as z from 'zod';

type Method = 'get' | 'post' | 'delete';

/** Names of what stands in an address such as `/api/takes/:id/stop`. */
export type ParametersOf<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | ParametersOf<`/${Rest}`>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

/** One call of the server: what is asked, and what comes back. Both ends hold to it. */
export interface Route<
  P extends string = string,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
> {
  method: Method;
  path: P;
  query: Q;
  body: B;
  answer: A;
  /** Of an answer that says all is well; 204 has nothing to say. */
  status: number;
}

const nothing = z.unknown();
const noAnswer = z.void();

/** @param about what it asks beside its address, and what it answers; nothing where nothing is said */
export function route<
  P extends string,
  Q extends z.ZodType = z.ZodUnknown,
  B extends z.ZodType = z.ZodUnknown,
  A extends z.ZodType = z.ZodVoid,
>(method: Method, path: P, about: { query?: Q; body?: B; answer?: A; status?: number } = {}): Route<P, Q, B, A> {
  const { query = nothing, body = nothing, answer = noAnswer } = about;
  const status = about.status ?? (about.answer ? 200 : 204);
  return { method, path, query: query as Q, body: body as B, answer: answer as A, status };
}

/** Where a route is called. Parameters are made safe for an address. */
export function addressOf<P extends string>(
  { path }: Route<P>,
  parameters: Record<ParametersOf<P>, string>,
  query: Readonly<Record<string, string>> = {},
): string {
  const named = parameters as Record<string, string>;
  const place = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(named[name] ?? ''));
  const asked = new URLSearchParams(query).toString();
  return asked ? `${place}?${asked}` : place;
}
