import { newAsset, newClip, newDocument, type Clip, type ClipSource, type ProjectDocument } from '../../document';
import type { ReelTake } from '../sources';

/** A take of frames that are all there. */
export function reelTake(over: Partial<ReelTake> = {}): ReelTake {
  const { first = 1, last = 10, settings = { step: 1, width: 160, height: 90 } } = over;
  const done: number[] = [];
  for (let frame = first; frame <= last; frame += settings.step) done.push(frame);
  return { id: 't', shot: 's', shotName: 'Turn', number: 1, first, last, settings, done, ...over };
}

/** A project at 24 frames a second with clips of a take called `t`, or of what they say. */
export function reelOf(clips: (Partial<Clip> & { source?: ClipSource })[]): ProjectDocument {
  const document: ProjectDocument = structuredClone(newDocument('Reel'));
  clips.forEach((over, k) => {
    const clip = newClip(over.source ?? { kind: 'take', take: 't' }, { id: `c${k}`, order: k, to: 10, ...over });
    document.reel.clips[clip.id] = clip;
  });
  return document;
}

const hash = 'a'.repeat(64);
/** Footage of frames at a rate. */
export const footageAsset = (frames: number, rate: number) =>
  newAsset({
    id: 'f',
    name: 'Clip',
    kind: 'footage',
    hash,
    footage: {
      frames: Array.from({ length: frames }, () => hash),
      rate,
      size: null,
      brightness: Array.from({ length: frames }, () => 0.5),
    },
  });
