import type { Look, PictureFile } from '@zippy/core/document';
import type { FrameState } from '@zippy/core/motion';
import type { RenderSettings } from '@zippy/core/trace';

/** What the traced picture's workers are started with. */
export interface TracedStart {
  module: WebAssembly.Module;
  /** Null where it cannot be shared. */
  memory: WebAssembly.Memory | null;
  /** One end of a channel to each tile worker; none where memory cannot be shared: the tracer then renders itself. */
  tiles: MessagePort[];
}

/** A picture that is wanted; it replaces the one before. */
export interface TracedRequest {
  /** Counts requests, so that late answers are known. */
  id: number;
  state: FrameState;
  look: Look;
  width: number;
  height: number;
  /** Part of the picture that is wanted, 0 to 1. */
  region: RenderSettings['region'];
  /** Samples at which the picture is finished. */
  samples: number;
  /** Surroundings and pictures by asset id. */
  pictures: Record<string, PictureFile>;
}

export interface TracedAnswer {
  id: number;
  width: number;
  height: number;
  /** Eight bits each of red, green, blue, alpha, top row first. */
  pixels?: Uint8ClampedArray<ArrayBuffer>;
  samples?: number;
  /** Milliseconds from the wish to the picture. */
  milliseconds?: number;
  /** Relative, see filmNoise. */
  noise?: number;
  failure?: string;
}
