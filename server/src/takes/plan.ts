import { pictureFiles, tracedFile, type ProjectDocument, type Shot } from '@zippy/core/document';
import { evaluate, exposeFrame } from '@zippy/core/motion';
import { exposureOf, frameIdentity, type RenderSettings } from '@zippy/core/trace';

/** Frames of a shot that are to be named. */
export interface PlanJob {
  document: ProjectDocument;
  shot: string;
  /** Numbers of the frames, in the order in which their names are wanted. */
  frames: number[];
  settings: RenderSettings;
}

/** Names the frames of a shot by what is in them, one after another. */
export function* planFrames({ document, shot: id, frames, settings }: PlanJob): Generator<string> {
  const shot = document.shots[id]!;
  const hashes = assetHashes(document);
  for (const frame of frames)
    yield frameIdentity(exposeFrame(document, shot, frame, exposureOf(settings)), settings, hashes);
}

/**
 * Whether the frame after the last would be the first again: then each is the other's neighbour. Only places and light are compared, not
 * what moves while the shutter is open: no move goes on behind its shot.
 */
export function loops(document: ProjectDocument, shot: Shot, settings: RenderSettings): boolean {
  if (shot.length < 3) return false;
  const still = { ...settings, layers: [] };
  const name = (frame: number) => frameIdentity(evaluate(document, shot, frame), still, assetHashes(document));
  // A shot in which nothing moves has no seam.
  return name(shot.length + 1) === name(1) && name(2) !== name(1);
}

const assetHashes = ({ assets }: ProjectDocument): Record<string, string> =>
  Object.fromEntries(Object.entries(pictureFiles(assets)).map(([key, file]) => [key, tracedFile(file)]));
