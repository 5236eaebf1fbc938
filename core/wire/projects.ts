import * as z from 'zod';
import { patchSchema, type DocumentPatch, type ProjectDocument } from '../document';
import { route } from './route';

/** What a project or a version of one may be called. */
const nameSchema = z
  .string()
  .trim()
  .min(1)
  .max(200)
  .refine((name) => !/\p{Surrogate}/u.test(name), 'it holds half of a character');
/** A name that a window gives itself or one of its saves. */
const ownNameSchema = z.string().max(40);

const projectEntrySchema = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.number().int(),
  updatedAt: z.number(),
});
export type ProjectEntry = z.infer<typeof projectEntrySchema>;

/** A whole project. The document goes out as it is stored, checked by the server when it was written: reading it again would take the page's time. */
export const openProjectSchema = z.object({
  id: z.string(),
  revision: z.number().int(),
  document: z.custom<ProjectDocument>((document) => typeof document === 'object' && document !== null),
});
export type OpenProject = z.infer<typeof openProjectSchema>;

const versionEntrySchema = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.number().int(),
  createdAt: z.number(),
});
export type VersionEntry = z.infer<typeof versionEntrySchema>;

export const PROJECTS = {
  list: route('get', '/api/projects', { answer: z.array(projectEntrySchema) }),
  create: route('post', '/api/projects', {
    body: z.object({ name: nameSchema, document: z.unknown().optional() }),
    answer: openProjectSchema,
    status: 201,
  }),
  open: route('get', '/api/projects/:id', { answer: openProjectSchema }),
  remove: route('delete', '/api/projects/:id'),
  /** The whole of it as one file, with its frames and films where one asks for them. */
  pack: route('get', '/api/projects/:id/package', {
    query: z.object({ frames: z.string().optional(), films: z.string().optional() }),
  }),
  /** A file of a whole project, whose bytes are the body, becomes a project. `notes`: what is missing of it. */
  unpack: route('post', '/api/project-packages', {
    query: z.object({ name: z.string().max(300).default('project') }),
    answer: z.object({ id: z.string(), notes: z.array(z.string()) }),
    status: 201,
  }),
  /** A second one like it. */
  copy: route('post', '/api/projects/:id/copies', { answer: z.object({ id: z.string() }), status: 201 }),
  /** A small picture of it: a frame of its newest take. */
  picture: route('get', '/api/projects/:id/picture'),
  /** The scene as a glTF file. */
  scene: route('get', '/api/projects/:id/scene.glb'),
  edit: route('post', '/api/projects/:id/edits', {
    body: z.object({
      revision: z.number().int(),
      patches: z
        .array(patchSchema as z.ZodType<DocumentPatch>)
        .min(1)
        .max(100_000),
      /** Tells the windows of one browser apart, so that none takes its own edits for those of another. */
      window: ownNameSchema,
      /** Names this save: sent once more, because its answer was lost, it is not done twice. */
      save: ownNameSchema.optional(),
    }),
    answer: z.object({ revision: z.number().int() }),
  }),
  versions: route('get', '/api/projects/:id/versions', { answer: z.array(versionEntrySchema) }),
  keepVersion: route('post', '/api/projects/:id/versions', {
    body: z.object({ name: nameSchema }),
    answer: z.object({ id: z.string() }),
    status: 201,
  }),
  restoreVersion: route('post', '/api/projects/:id/versions/:version/restore', {
    body: z.object({ window: ownNameSchema }),
    answer: openProjectSchema,
  }),
};
