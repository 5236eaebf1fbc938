import * as z from 'zod';
import { LIMITS, type ProjectDocument } from '../document';
import { DISPLAYS, STILL_FORMAT_NAMES, type Matte, type Probed } from '../develop';
import { renderSettingsSchema, type Prediction } from '../trace';
import { route } from './route';

const TAKE_STATES = ['waiting', 'rendering', 'stopped', 'done', 'failed'] as const;
export type TakeState = (typeof TAKE_STATES)[number];

const frameNumber = z.number().int().min(1).max(LIMITS.framesPerShot);
/** Frames of a shot, and how they are to be rendered. */
const rangeSchema = z.object({
  shot: z.string().max(40),
  first: frameNumber,
  last: frameNumber,
  settings: renderSettingsSchema,
});

/** What is to be rendered, and the name of its scene, by which one tells later whether a take is older than that. */
const orderSchema = rangeSchema.extend({
  scene: z.string().max(64).optional(),
  /** Variant of the product instead of the one that the shot shows. */
  colourway: z.string().max(40).optional(),
  /** Also where the disk may not have the room. */
  anyway: z.boolean().default(false),
});

const takeSchema = z.object({
  id: z.string(),
  number: z.number().int(),
  shot: z.string(),
  shotName: z.string(),
  state: z.enum(TAKE_STATES),
  first: z.number().int(),
  last: z.number().int(),
  settings: renderSettingsSchema,
  /** Name of the scene that it was rendered of, as sceneDigest gives it; empty where that is not known. */
  scene: z.string(),
  /** Frames that are there. */
  done: z.array(z.number().int()),
  /** Frames that have been named so far, and different pictures among them: what has to be traced. */
  named: z.number().int(),
  distinct: z.number().int(),
  failure: z.string(),
  /** Those with a smaller one are rendered before it. */
  order: z.number(),
  createdAt: z.number(),
});
export type Take = z.infer<typeof takeSchema>;

const estimateSchema = z.object({ expected: z.number(), low: z.number(), high: z.number() });
const foreseenSchema = z.object({
  seconds: estimateSchema,
  secondsPerFrame: estimateSchema,
  noise: estimateSchema,
  frames: z.number().int(),
}) satisfies z.ZodType<Prediction>;
/** What was asked about, and the same frames rendered in other ways. */
const predictionSchema = foreseenSchema.extend({ others: z.array(foreseenSchema) });
export type Foreseen = z.infer<typeof predictionSchema>;

/** A look as JSON, as it goes in an address. */
const look = z.string().optional();
const matteSchema = z.object({
  of: z.enum(['parts', 'finishes']),
  names: z.array(z.string().max(LIMITS.nameLength)).min(1).max(200),
}) satisfies z.ZodType<Matte>;
/** What of a frame is looked at instead of its picture: one of its layers, or a matte of things, which is JSON in an address. */
const shownSchema = z.object({
  look,
  layer: z.string().max(300).optional(),
  matte: z
    .string()
    .transform((text, context) => {
      try {
        return matteSchema.parse(JSON.parse(text));
      } catch {
        context.addIssue('This says no things to make a matte of.');
        return z.NEVER;
      }
    })
    .optional(),
});
/** A form in which frames leave, and the colour that fills what is open behind the product: #rrggbb, or nothing. */
const leavingSchema = shownSchema.extend({
  format: z.enum(STILL_FORMAT_NAMES),
  display: z.enum(DISPLAYS).default('bt709'),
  ground: z
    .string()
    .regex(/^#[0-9a-f]{6}$/i)
    .optional(),
});
const share = z.coerce.number().min(0).max(1);
const probedSchema = z.object({
  light: z.tuple([z.number(), z.number(), z.number()]),
  alpha: z.number(),
  depth: z.number().nullable(),
  part: z.string().nullable(),
  finish: z.string().nullable(),
}) satisfies z.ZodType<Probed>;

/** What frames take on the disk, in bytes. */
const diskSchema = z.object({
  free: z.number(),
  /** Frames of the project's takes. */
  project: z.number(),
  /** Frames that no take of any project shows, and what was left of some in the middle. */
  unneeded: z.number(),
});
export type Disk = z.infer<typeof diskSchema>;

/** Header of a frame shown by a layer: what black and white stand for, as `low high unit`. */
export const LAYER_RANGE = 'Zippy-Range';

export const TAKES = {
  list: route('get', '/api/projects/:id/takes', { answer: z.array(takeSchema) }),
  create: route('post', '/api/projects/:id/takes', { body: orderSchema, answer: takeSchema, status: 201 }),
  predict: route('post', '/api/projects/:id/predictions', {
    body: rangeSchema.extend({ others: z.array(renderSettingsSchema).max(8).default([]) }),
    answer: predictionSchema,
  }),
  show: route('get', '/api/takes/:id', { answer: takeSchema }),
  /** The project as it was when the take was asked for: the document, as it is stored. */
  document: route('get', '/api/takes/:id/document', {
    answer: z.custom<ProjectDocument>((document) => typeof document === 'object' && document !== null),
  }),
  stop: route('post', '/api/takes/:id/stop'),
  resume: route('post', '/api/takes/:id/continue'),
  /** Puts a take that waits or is rendered before another one in the queue; null is behind all. */
  queue: route('post', '/api/takes/:id/queue', { body: z.object({ before: z.string().max(40).nullable() }) }),
  remove: route('delete', '/api/takes/:id'),
  /** Names of the layers that it keeps; those of lights begin with `light:`. */
  layers: route('get', '/api/takes/:id/layers', { answer: z.array(z.string()) }),
  disk: route('get', '/api/projects/:id/disk', { answer: diskSchema }),
  /** Removes frames that no take shows. @returns how many bytes that freed */
  tidy: route('post', '/api/frames/tidy', { answer: z.object({ freed: z.number() }) }),
  /** One frame, linear as `exr` or developed as `png` or `webp`. */
  frame: route('get', '/api/takes/:id/frames/:frame', {
    query: shownSchema.extend({ width: z.coerce.number().int().min(16).max(8192).optional() }),
  }),
  /** What a frame says at a point, told by its part of the width and of the height. */
  probe: route('get', '/api/takes/:id/frames/:frame/at', {
    query: z.object({ x: share, y: share }),
    answer: probedSchema,
  }),
  /** One frame as a file that leaves, under the name that the project gives it. */
  still: route('get', '/api/takes/:id/frames/:frame/still', { query: leavingSchema }),
  /** Writes all frames that are there into the folder that the server was given for it; nothing that is there is replaced. */
  deliver: route('post', '/api/takes/:id/deliver', {
    query: leavingSchema,
    answer: z.object({ folder: z.string(), files: z.number().int(), first: z.string() }),
  }),
  /** All frames that are there, packed. */
  stills: route('get', '/api/takes/:id/stills', { query: leavingSchema }),
};
