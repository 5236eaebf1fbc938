import { inOrder } from '../document';
import { clipFrames } from '../reel';
import type { Check } from './check';

/** Clips of what is gone or not rendered to its end; with the number of the take where there is one. */
export const unfinishedClip: Check<{ clip: string; take: number | null }> = (document, { takes }) =>
  inOrder(document.reel.clips).flatMap((clip) => {
    const { fault, of } = clipFrames(clip, document, takes);
    return fault === '' ? [] : [{ clip: clip.id, take: of && 'take' in of ? of.take.number : null }];
  });
