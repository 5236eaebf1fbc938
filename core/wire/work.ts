import * as z from 'zod';

/** What a few samples of a small frame tell; see predict.ts. */
const probeSchema = z.object({
  setup: z.number(),
  perSample: z.number(),
  samples: z.number(),
  errors: z.array(z.number()),
});

/** What the tracer's thread answers to a frame. */
export const traceAnswerSchema = z.object({
  id: z.number().int(),
  stopped: z.literal(true).optional(),
  failure: z.string().optional(),
  /** Code of a system error, such as ENOSPC. */
  code: z.string().optional(),
  probe: probeSchema.optional(),
  /** Part of the frame that is done, while it is at work: no answer yet. */
  progress: z.number().optional(),
  kernelMilliseconds: z.number().optional(),
  milliseconds: z.number().optional(),
});
export type TraceAnswer = z.infer<typeof traceAnswerSchema>;

/** What a thread that names the frames of a take tells, one after another. */
export const planAnswerSchema = z.union([
  z.object({ names: z.array(z.string()) }),
  z.object({ loops: z.boolean() }),
  z.object({ end: z.literal(true) }),
  z.object({ failure: z.string() }),
]);
export type PlanAnswer = z.infer<typeof planAnswerSchema>;

/** What the thread that encodes a film tells. */
export const encodingSchema = z.object({
  encoded: z.number().int().optional(),
  done: z.literal(true).optional(),
  stopped: z.boolean().optional(),
  failure: z.string().optional(),
});
export type Encoding = z.infer<typeof encodingSchema>;
