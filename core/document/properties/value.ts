import * as z from 'zod';

const finite = z.number().min(-1e9).max(1e9);

/** What keys, moves and shots set a property to. */
export const valueSchema = z.union([
  finite,
  z.boolean(),
  z.tuple([finite, finite, finite]),
  /** One of the names of a choice. */
  z.string().regex(/^[a-z-]{1,40}$/),
]);

export type Value = z.infer<typeof valueSchema>;
