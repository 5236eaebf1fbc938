import { frameCount, inOrder } from '../document';
import type { Check } from './check';

/** Clips of takes that are gone or not rendered to their end; the number of the take where it is there. */
export const unfinishedClip: Check<{ clip: string; take: number | null }> = ({ reel }, { takes }) =>
  inOrder(reel.clips).flatMap(({ id, take: wanted }) => {
    const take = takes.find((each) => each.id === wanted);
    if (take && take.done.length >= frameCount(take)) return [];
    return [{ clip: id, take: take?.number ?? null }];
  });
