import { z } from 'zod';
import { LAYERS } from './layers';

/** What a render is asked for besides its scene. */
export const renderSettingsSchema = z.object({
  /** Pixels; 8192 is 8K. */
  width: z.number().int().min(16).max(8192),
  height: z.number().int().min(16).max(8192),
  /** Paths per pixel. */
  samples: z.number().int().min(1).max(65_536),
  /** Most bounces of a path. */
  depth: z.number().int().min(1).max(64),
  /** Largest value that light arriving indirectly may add to a sample, 0 for no limit: it takes out bright specks. */
  speckLimit: z.number().min(0).max(1e6),
  seed: z.number().int().min(0).max(0x7fffffff),
  /** Error in display values (1 is from black to white) at which a pixel gets no more samples; 0 gives all pixels all of them. */
  noiseTarget: z.number().min(0).max(0.5).default(0),
  /** Seconds after which a frame is done with what it has; 0 for no limit. */
  secondsPerFrame: z.number().min(0).max(86_400).default(0),
  /** Part of the picture to render, 0 to 1 from the top left corner; the rest stays empty. */
  region: z
    .object({
      left: z.number().min(0).max(1),
      top: z.number().min(0).max(1),
      right: z.number().min(0).max(1),
      bottom: z.number().min(0).max(1),
    })
    .refine(({ left, top, right, bottom }) => right > left && bottom > top, 'The region is empty.')
    .nullable()
    .default(null),
  /** Layers that are kept besides colour, alpha, depth, normal and albedo. */
  layers: z.array(z.enum(LAYERS)).default([]),
});

export type RenderSettings = z.infer<typeof renderSettingsSchema>;

export const defaultRenderSettings = (): RenderSettings => ({
  width: 960,
  height: 540,
  samples: 64,
  depth: 10,
  speckLimit: 12,
  seed: 1,
  noiseTarget: 0,
  secondsPerFrame: 0,
  region: null,
  layers: [],
});
