import * as z from 'zod';
import { route } from './route';

export const hashSchema = z.string().regex(/^[0-9a-f]{64}$/);
/** A file on the server by its content, with the name it came under. */
export const storedFileSchema = z.object({ name: z.string().min(1).max(300), hash: hashSchema });
export type StoredFile = z.infer<typeof storedFileSchema>;
export const storedFilesSchema = z.array(storedFileSchema).max(2000);

const keptSchema = z.object({ hash: hashSchema });
/** A picture as it is kept: its PNG, and that with more than eight bits where it had more. */
export const keptPictureSchema = keptSchema.extend({ deep: hashSchema.nullable() });
export type KeptPicture = z.infer<typeof keptPictureSchema>;

/** Files that come in by themselves. */
export const FILES = {
  /** The bytes of a file are its body. */
  store: route('post', '/api/blobs', { answer: z.object({ hash: hashSchema, bytes: z.number() }) }),
  /** A file by its content. */
  blob: route('get', '/api/blobs/:hash'),
  /** The files of an archive that was sent, each kept on its own. */
  unpack: route('post', '/api/archives', { body: storedFileSchema, answer: z.array(storedFileSchema) }),
  surroundings: route('post', '/api/surroundings', {
    body: storedFileSchema,
    answer: keptSchema.extend({ width: z.number(), height: z.number(), clipped: z.number() }),
  }),
  lookup: route('post', '/api/lookups', { body: storedFileSchema, answer: keptSchema }),
  /** A picture that was sent, turned into the one form that is kept. */
  picture: route('post', '/api/pictures', {
    body: storedFileSchema,
    /** `clipped`: numbers in it that were none, or beyond what is kept. `smaller`: with more than eight bits it was larger than is kept. */
    answer: keptPictureSchema.extend({ clipped: z.number(), smaller: z.boolean() }),
  }),
};
