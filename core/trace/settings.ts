import * as z from 'zod';
import { LAYERS, PICTURE, RENDER, shapeOf, type ProjectDocument, type Shot } from '../document';

const { samples, depth, speckLimit, seed, noiseTarget, secondsPerFrame, motionBlur, step } = RENDER;

/** What a render is asked for besides its scene. */
export const renderSettingsSchema = z.object({
  ...shapeOf({ ...PICTURE, samples, depth, speckLimit, seed }),
  noiseTarget: noiseTarget.schema.default(0),
  secondsPerFrame: secondsPerFrame.schema.default(0),
  motionBlur: motionBlur.schema.default(true),
  /** Every so many frames of a take one is rendered, the first among them. */
  step: step.schema.default(1),
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
  depth: depth.default,
  speckLimit: speckLimit.default,
  seed: seed.default,
  noiseTarget: noiseTarget.default,
  secondsPerFrame: secondsPerFrame.default,
  motionBlur: motionBlur.default,
  step: step.default,
  region: null,
  layers: [],
});

/** What a picture's sides are multiplied by. */
const SHARES = { full: 1, half: 1 / 2, quarter: 1 / 4 };

/** How the project, or a shot where it says so itself, is rendered. */
export function settingsOfShot(
  document: Pick<ProjectDocument, 'picture' | 'render'>,
  shot: Pick<Shot, 'picture' | 'render'> | null,
): RenderSettings {
  const { share, ...render } = shot?.render ?? document.render;
  const size = shot?.picture ?? document.picture;
  const side = (pixels: number) => Math.max(PICTURE.width.min, Math.round(pixels * SHARES[share]));
  return { ...render, width: side(size.width), height: side(size.height), region: null };
}

/** What a frame's state has to tell for settings; see motion/shutter.ts. */
export const exposureOf = ({ layers, motionBlur }: RenderSettings): { next: boolean; blurred: boolean } => ({
  next: layers.includes('motion'),
  blurred: motionBlur,
});
