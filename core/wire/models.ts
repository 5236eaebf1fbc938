import * as z from 'zod';
import { FINDINGS, LIMITS, recipeSchema } from '../document';
import type { ModelSummary, ModelTree } from '../intake';
import { hashSchema, keptPictureSchema, storedFileSchema, storedFilesSchema } from './files';
import { finishFileSchema } from './finishes';
import { route } from './route';

const foundSchema = z.partialRecord(z.enum(FINDINGS), z.record(z.string(), z.number()));

const summarySchema = z.object({
  size: z.tuple([z.number(), z.number(), z.number()]),
  unit: recipeSchema.shape.unit,
  unitReason: z.string(),
  up: recipeSchema.shape.up,
  upReason: z.string(),
  parts: z.number(),
  triangles: z.number(),
  finishes: z.number(),
  solids: z.boolean(),
  found: z.array(z.object({ finding: z.enum(FINDINGS), count: z.number(), meshes: z.number() })),
  notes: z.array(z.string()),
  along: z.object({ cameras: z.number(), lights: z.number(), moving: z.number(), seconds: z.number() }),
}) satisfies z.ZodType<ModelSummary>;

export const IMPORT_STATES = ['reading', 'read', 'failed', 'stopped'] as const;
const importJobSchema = z.object({
  id: z.string(),
  state: z.enum(IMPORT_STATES),
  message: z.string(),
  summary: summarySchema.nullable(),
});
export type ImportJob = z.infer<typeof importJobSchema>;

/** Nodes and finishes of a model. What they hold is put into the range of the document when they are placed; see intake/place.ts. */
const treeSchema = z.custom<ModelTree>(
  (tree) =>
    z.object({ nodes: z.array(z.object({ name: z.string() })), finishes: z.array(z.unknown()) }).safeParse(tree)
      .success,
);

const acceptedModelSchema = z.object({
  /** Content hash of the GLB with the meshes. */
  hash: hashSchema,
  sourceHash: hashSchema,
  /** Files that came along with the source and were looked through for what it names. */
  companions: z.array(storedFileSchema),
  found: foundSchema,
  tree: treeSchema,
  /** Pictures that the model's finishes wear, in their order; null where one could not be kept. */
  pictures: z.array(keptPictureSchema.extend({ name: z.string() }).nullable()),
});
export type AcceptedModel = z.infer<typeof acceptedModelSchema>;

const rebuiltModelSchema = z.object({ hash: hashSchema, found: foundSchema });
export type RebuiltModel = z.infer<typeof rebuiltModelSchema>;

const signatureSchema = z.object({
  area: z.number(),
  volume: z.number(),
  moments: z.tuple([z.number(), z.number(), z.number()]),
});
const comparisonSchema = z.object({ before: z.array(signatureSchema), after: z.array(signatureSchema) });
/** Signatures of the meshes of two models, in their order. */
export type Comparison = z.infer<typeof comparisonSchema>;

const { up, front } = recipeSchema.shape;

const bytesSchema = z.instanceof(Uint8Array);
/** What grows with the model is looked at no closer here: the page does that when it comes there. */
const whole = <T>() => z.custom<T>((value) => typeof value === 'object' && value !== null);
/** What the process that reads models answers to a job, or tells of it meanwhile. */
export const readerAnswerSchema = z.object({
  job: z.string(),
  /** Bytes of the file that begins to be read now: no answer yet. */
  reading: z.number().optional(),
  /** Its memory is used up: another process has to go on. */
  spent: z.boolean().optional(),
  summary: whole<ModelSummary>().optional(),
  portrayed: bytesSchema.optional(),
  accepted: whole<Omit<AcceptedModel, 'sourceHash' | 'companions'>>().optional(),
  rebuilt: whole<RebuiltModel & { meshes: number }>().optional(),
  compared: whole<Comparison>().optional(),
  drawn: bytesSchema.optional(),
  unpacked: storedFilesSchema.optional(),
  finishes: finishFileSchema.optional(),
  exported: bytesSchema.optional(),
  code: z.string().optional(),
  failure: z.string().optional(),
  status: z.number().int().optional(),
});
export type ReaderAnswer = z.infer<typeof readerAnswerSchema>;

export const MODELS = {
  startImport: route('post', '/api/imports', {
    body: z.object({ files: storedFilesSchema.min(1) }),
    answer: importJobSchema,
    status: 202,
  }),
  showImport: route('get', '/api/imports/:id', { answer: importJobSchema }),
  stopImport: route('delete', '/api/imports/:id'),
  /** A picture of how the model stands with other choices. */
  portrait: route('get', '/api/imports/:id/portrait.png', {
    query: z.object({ up, front: z.coerce.number().pipe(front) }),
  }),
  acceptImport: route('post', '/api/imports/:id/accept', {
    body: z.object({ recipe: recipeSchema }),
    answer: acceptedModelSchema,
  }),
  /** A model's file made again from its source, for parts that count on so many meshes. */
  rebuild: route('post', '/api/models', {
    body: z.object({
      source: storedFileSchema,
      companions: storedFilesSchema,
      recipe: recipeSchema,
      meshes: z.number().int().min(1).max(LIMITS.parts),
    }),
    answer: rebuiltModelSchema,
  }),
  /** By what the meshes of two models are known again. */
  compare: route('post', '/api/models/compare', {
    body: z.object({ before: hashSchema, after: hashSchema }),
    answer: comparisonSchema,
  }),
  /** A small picture of one mesh of a model; its number ends in `.png`. */
  mesh: route('get', '/api/models/:hash/meshes/:mesh'),
};
