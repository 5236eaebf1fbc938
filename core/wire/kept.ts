import * as z from 'zod';
import { documentSchema, LIMITS } from '../document';
import { route } from './route';

const name = z.string().trim().min(1).max(LIMITS.nameLength);
const folder = z.string().trim().max(LIMITS.nameLength);

/** A finish that is kept for all projects: a small project that holds it, what it is made of, and its motion in one shot. */
const keptSchema = z.object({
  id: z.string(),
  name,
  /** Where it lies on the user's shelf; empty is on top. */
  folder,
  /** As it was kept: `openDocument` brings it up to date. */
  document: z.unknown(),
  createdAt: z.number(),
});
export type KeptFinish = z.infer<typeof keptSchema>;

export const KEPT = {
  list: route('get', '/api/kept', { answer: z.array(keptSchema) }),
  keep: route('post', '/api/kept', {
    body: z.object({ name, folder, document: documentSchema }),
    answer: keptSchema,
    status: 201,
  }),
  change: route('post', '/api/kept/:id', { body: z.object({ name, folder }) }),
  remove: route('delete', '/api/kept/:id'),
};
