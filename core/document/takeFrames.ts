/** Frames of a take, and how far they are apart. */
export interface TakeFrames {
  first: number;
  last: number;
  /** Every so many frames one is rendered, the first among them. */
  settings: { step: number };
}

/** Numbers of the frames of a take that are rendered. */
export const renderedFrames = (take: TakeFrames): number[] =>
  Array.from({ length: frameCount(take) }, (_, k) => take.first + k * take.settings.step);

/** How many frames of a take are rendered. */
export const frameCount = ({ first, last, settings: { step } }: TakeFrames): number =>
  Math.floor((last - first) / step) + 1;

/** The rendered frame that stands for a frame of a take: itself, or the one before it where frames are left out. */
export const heldFrame = ({ first, settings: { step } }: TakeFrames, frame: number): number =>
  first + Math.floor((frame - first) / step) * step;
