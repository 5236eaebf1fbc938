import type { Look, ProjectDocument } from '@zippy/core/document';
import type { Delivery, ReelTake, TitleOutline } from '@zippy/core/reel';

/** Part of a document that a film is made of. */
export const FILM_PARTS = ['frameRate', 'picture', 'reel', 'assets', 'shots', 'look', 'takeLooks'] as const;

/** A frame of a take, and those beside it. */
interface FramePaths {
  path: string;
  before: string | null;
  after: string | null;
}

/** All that the thread that makes a film has to know. */
export interface FilmJob {
  name: string;
  delivery: Delivery;
  document: Pick<ProjectDocument, 'frameRate' | 'picture' | 'reel' | 'assets' | 'shots'>;
  takes: ReelTake[];
  /** Frames of the film that are made, from 1. */
  frames: number[];
  /** Frames of takes as `TAKE@FRAME`. */
  paths: Record<string, FramePaths>;
  /** Looks of clips by their ids, with the paths of their look-up tables; filmed clips without one are shown as they are. */
  looks: Record<string, { look: Look; lookup: string | null }>;
  /** Files by content hash. */
  blobs: string;
  /** By what `outlineKey` gives. */
  outlines: Record<string, TitleOutline>;
  output: string;
  ffmpeg: string;
}
