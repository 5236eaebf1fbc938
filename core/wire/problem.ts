import * as z from 'zod';
import { openProjectSchema } from './projects';

/** A refusal, as problem details (RFC 9457); `detail` is a sentence for people. */
export const problemSchema = z.looseObject({
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  /** Of edits that met those of another window: the project as it is now. */
  newer: openProjectSchema.optional(),
});
export type Problem = z.infer<typeof problemSchema>;
