import * as z from 'zod';
import { LIMITS, soundFileSchema } from '../document';
import { deliverySchema, FILM_FORMAT_NAMES, type TitleOutline } from '../reel';
import { hashSchema, storedFileSchema } from './files';
import { route } from './route';

export const FILM_STATES = ['encoding', 'stopped', 'done', 'failed'] as const;
export type FilmState = (typeof FILM_STATES)[number];

const filmSchema = z.object({
  id: z.string(),
  name: z.string(),
  format: z.enum(FILM_FORMAT_NAMES),
  /** Its size, in words. */
  about: z.string(),
  state: z.enum(FILM_STATES),
  frames: z.number().int(),
  encoded: z.number().int(),
  bytes: z.number(),
  failure: z.string(),
  createdAt: z.number(),
});
export type Film = z.infer<typeof filmSchema>;

const outlineSchema = z.object({
  lines: z.array(z.object({ glyphs: z.array(z.object({ path: z.string(), x: z.number() })), width: z.number() })),
  ascent: z.number(),
  descent: z.number(),
  missing: z.array(z.string()),
}) satisfies z.ZodType<TitleOutline>;

/** What lies over and under films. */
export const OVER_FILM = {
  /** Words as outlines, in a font that is shipped or that of an asset: its file, then, and how it is called. */
  outline: route('post', '/api/title-outlines', {
    body: z.object({
      words: z.string().max(LIMITS.titleLetters),
      font: z.union([z.string().max(60), storedFileSchema]),
    }),
    answer: outlineSchema,
  }),
  /** A file that is to be a font: how it calls itself. */
  font: route('post', '/api/fonts', { body: storedFileSchema, answer: z.object({ name: z.string() }) }),
  /** A file that is to be a sound, as it is kept. */
  sound: route('post', '/api/sounds', {
    body: storedFileSchema,
    answer: z.object({ hash: hashSchema, sound: soundFileSchema, notes: z.array(z.string()) }),
  }),
  /** A picture of what was filmed, in a look that is JSON. */
  filmed: route('get', '/api/filmed/:hash', {
    query: z.object({ look: z.string().optional(), width: z.coerce.number().int().min(16).max(8192).optional() }),
  }),
};

export const FILMS = {
  list: route('get', '/api/projects/:id/films', { answer: z.array(filmSchema) }),
  create: route('post', '/api/projects/:id/films', {
    body: deliverySchema,
    answer: filmSchema,
    status: 201,
  }),
  /** What a film would take on the disk. Leaving ends it. */
  foretell: route('post', '/api/projects/:id/foretold-films', {
    body: deliverySchema,
    answer: z.object({ bytes: z.number(), frames: z.number().int() }),
  }),
  stop: route('post', '/api/films/:id/stop'),
  remove: route('delete', '/api/films/:id'),
  /** The film itself; `save` has the browser keep it under its name instead of showing it. */
  file: route('get', '/api/films/:id/file', { query: z.object({ save: z.string().optional() }) }),
};
