import * as z from 'zod';
import type { ModelFinish } from '../intake';
import { keptPictureSchema, storedFilesSchema } from './files';
import { route } from './route';

/** Finishes of a file, which wear its pictures by their position; null where one could not be kept. */
export const finishFileSchema = z.object({
  /** Looked at closer where they come into a document; see intake/place.ts. */
  finishes: z.array(z.custom<ModelFinish>((each) => typeof each === 'object' && each !== null)),
  pictures: z.array(keptPictureSchema.extend({ name: z.string() }).nullable()),
  notes: z.array(z.string()),
});
export type ReadFinishes = z.infer<typeof finishFileSchema>;

/** Open forms in which one finish leaves. */
const FINISH_FORMS = ['materialx', 'gltf'] as const;
export type FinishForm = (typeof FINISH_FORMS)[number];

export const FINISHES = {
  /** Finishes of the first MaterialX or glTF file among the files; the others are what it may name. */
  read: route('post', '/api/finishes', {
    body: z.object({ files: storedFilesSchema.min(1) }),
    answer: finishFileSchema,
  }),
  /** A finish of a project as an open file. */
  file: route('get', '/api/projects/:id/finishes/:finish/file', { query: z.object({ as: z.enum(FINISH_FORMS) }) }),
};
