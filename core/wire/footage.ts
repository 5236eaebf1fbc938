import * as z from 'zod';
import { footageSchema, LIMITS } from '../document';
import { storedFileSchema } from './files';
import { route } from './route';

const readFootageSchema = footageSchema.and(
  z.object({
    /** What its owner should know of how it was read. */
    notes: z.array(z.string()),
  }),
);
export type ReadFootage = z.infer<typeof readFootageSchema>;

const footageJobSchema = z.object({
  id: z.string(),
  state: z.enum(['reading', 'read', 'failed', 'stopped']),
  /** Frames that have been read, and how many there are, where that is known. */
  frames: z.number().int(),
  of: z.number().int().nullable(),
  message: z.string(),
  footage: readFootageSchema.nullable(),
});
export type FootageJob = z.infer<typeof footageJobSchema>;

/** What the thread that reads footage tells. */
export const footageNewsSchema = z.union([
  z.object({ frames: z.number(), of: z.number().nullable() }),
  z.object({ footage: readFootageSchema }),
  z.object({ failure: z.string() }),
]);
export type FootageNews = z.infer<typeof footageNewsSchema>;

/** Moving pictures, taken apart into their frames. */
export const FOOTAGE = {
  /** Of one film, or of pictures that follow each other at a rate. */
  start: route('post', '/api/footage', {
    body: z.object({
      files: z.array(storedFileSchema).min(1).max(LIMITS.footageFrames),
      rate: z.number().min(0.01).max(1000),
    }),
    answer: footageJobSchema,
    status: 201,
  }),
  show: route('get', '/api/footage/:id', { answer: footageJobSchema }),
  stop: route('delete', '/api/footage/:id'),
};
