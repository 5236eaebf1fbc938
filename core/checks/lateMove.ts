import { shotsInOrder } from '../document';
import type { Check } from './check';

/** Moves that begin when their shot is over. */
export const lateMove: Check<{ shot: string; move: string }> = (document) =>
  shotsInOrder(document).flatMap((shot) =>
    Object.values(shot.moves).flatMap((move) => (move.start > shot.length ? [{ shot: shot.id, move: move.id }] : [])),
  );
