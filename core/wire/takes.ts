import { z } from 'zod';
import { LIMITS } from '../document';
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

export const TAKES = {
  list: route('get', '/api/projects/:id/takes', { answer: z.array(takeSchema) }),
  create: route('post', '/api/projects/:id/takes', { body: orderSchema, answer: takeSchema, status: 201 }),
  predict: route('post', '/api/projects/:id/predictions', {
    body: rangeSchema.extend({ others: z.array(renderSettingsSchema).max(8).default([]) }),
    answer: predictionSchema,
  }),
  show: route('get', '/api/takes/:id', { answer: takeSchema }),
  stop: route('post', '/api/takes/:id/stop'),
  resume: route('post', '/api/takes/:id/continue'),
  remove: route('delete', '/api/takes/:id'),
  /** Names of the light layers that it keeps. */
  lights: route('get', '/api/takes/:id/lights', { answer: z.array(z.string()) }),
  /** One frame, linear as `exr` or developed as `png` or `webp`; the look is JSON. */
  frame: route('get', '/api/takes/:id/frames/:frame', {
    query: z.object({ look: z.string().optional(), width: z.coerce.number().int().min(16).max(8192).optional() }),
  }),
};
