import * as z from 'zod';
import { FILM_STATES } from './films';
import { IMPORT_STATES } from './models';

/** What windows are told as it happens; each names what changed, and they fetch or apply it. */
export const serverEventSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('project'), project: z.string(), revision: z.number().int(), window: z.string() }),
  z.object({ type: z.literal('kept') }),
  z.object({ type: z.literal('takes'), project: z.string() }),
  z.object({
    type: z.literal('frame'),
    project: z.string(),
    take: z.string(),
    /** Frames of the take that now show a picture that was rendered. */
    frames: z.array(z.number().int()),
    /** How many of its frames have been named. */
    named: z.number().int(),
  }),
  z.object({
    type: z.literal('progress'),
    project: z.string(),
    take: z.string(),
    /** The frame at work, and which part of it is done, 0 to 1. */
    frame: z.number().int(),
    part: z.number(),
    /** Until the take is done, by what its frames took so far; null while that is not known. */
    secondsLeft: z.number().nullable(),
  }),
  z.object({ type: z.literal('import'), import: z.string(), state: z.enum(IMPORT_STATES), message: z.string() }),
  z.object({
    type: z.literal('film'),
    project: z.string(),
    film: z.string(),
    state: z.enum(FILM_STATES),
    encoded: z.number().int(),
    frames: z.number().int(),
  }),
]);

export type ServerEvent = z.infer<typeof serverEventSchema>;
