import { LIMITS } from './limits';
import { choice, count, number, still, text, toggle, unseen, type Property, type Table } from './property';

/** What is said once for a project or a shot: it never moves, and frames are named by what comes of it. */
const once = <P extends Property>(of: P): P => unseen(still(of));
const pixels = (standard: number) => once(count(standard, { unit: 'px', min: 16, max: 8192 }));

/** What a project shows. */
export const SETTINGS = {
  /** In what lengths are shown and typed; the document keeps millimetres. */
  lengthUnit: once(choice(['mm', 'cm', 'm', 'inch'], 'mm')),
  /** What files are called that leave; see develop/stills/fileName.ts for what stands in braces. */
  fileNames: once(text('{project}_{shot}_{take}_{frame}')),
  /** How large a pixel is on paper; it changes no picture. */
  dotsPerInch: once(count(72, { unit: 'dpi', min: 1, max: 9600 })),
} satisfies Table;

/** Size of a film's picture; 8192 is 8K. */
export const PICTURE = { width: pixels(1920), height: pixels(1080) } satisfies Table;

/** Layers a frame may keep besides those every frame has, in the order in which the tracer's film holds them. */
export const LAYERS = ['position', 'motion', 'emission', 'shadow', 'occlusion', 'mattes', 'behind', 'lights'] as const;

/** How takes are rendered. */
export const RENDER = {
  /** Part of the picture's size along each side. */
  share: once(choice(['full', 'half', 'quarter'], 'half')),
  /** Paths per pixel. */
  samples: once(count(32, { min: 1, max: 65_536 })),
  /** Error in display values (1 is from black to white) at which a pixel gets no more samples; 0 gives all pixels all of them. */
  noiseTarget: once(number(0, { unit: '%', scale: 0.01, min: 0, max: 0.5, step: 0.1 })),
  /** Seconds after which a frame is done with what it has; 0 for no limit. */
  secondsPerFrame: once(number(0, { unit: 's', min: 0, max: 86_400 })),
  /** Most bounces of a path. */
  depth: once(count(10, { min: 1, max: 64 })),
  /** Largest value that light arriving indirectly may add to a sample, 0 for no limit: it takes out bright specks. */
  speckLimit: once(number(12, { min: 0, max: 1e6 })),
  seed: once(count(1, { max: 0x7fffffff })),
  /** What moves is blurred while the shutter is open; without it a draft is quicker to judge. */
  motionBlur: once(toggle(true)),
  /** Every so many frames one is rendered. */
  step: once(count(1, { min: 1, max: 1000 })),
} satisfies Table;

export const SHOT = {
  /** The first frame is 1. */
  length: once(count(96, { unit: 'frames', min: 1, max: LIMITS.framesPerShot })),
  /** It is part of the film. */
  included: once(toggle(true)),
} satisfies Table;
