import { z } from 'zod';
import { FILM_FORMAT_NAMES, FILM_QUALITIES } from '../reel';
import { route } from './route';

export const FILM_STATES = ['encoding', 'stopped', 'done', 'failed'] as const;
export type FilmState = (typeof FILM_STATES)[number];

const filmSchema = z.object({
  id: z.string(),
  name: z.string(),
  format: z.enum(FILM_FORMAT_NAMES),
  state: z.enum(FILM_STATES),
  frames: z.number().int(),
  encoded: z.number().int(),
  bytes: z.number(),
  failure: z.string(),
  createdAt: z.number(),
});
export type Film = z.infer<typeof filmSchema>;

export const FILMS = {
  list: route('get', '/api/projects/:id/films', { answer: z.array(filmSchema) }),
  create: route('post', '/api/projects/:id/films', {
    body: z.object({ format: z.enum(FILM_FORMAT_NAMES), quality: z.enum(FILM_QUALITIES).optional() }),
    answer: filmSchema,
    status: 201,
  }),
  stop: route('post', '/api/films/:id/stop'),
  remove: route('delete', '/api/films/:id'),
  /** The film itself; `save` has the browser keep it under its name instead of showing it. */
  file: route('get', '/api/films/:id/file', { query: z.object({ save: z.string().optional() }) }),
};
