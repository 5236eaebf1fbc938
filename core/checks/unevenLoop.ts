import { shotsInOrder } from '../document';
import { behaviourOf } from '../motion';
import type { Check } from './check';

/** Moves that fill a shot and do not end as they began, so that the shot jumps where it loops. */
export const unevenLoop: Check<{ shot: string; move: string }> = (document) =>
  shotsInOrder(document).flatMap((shot) =>
    Object.values(shot.moves)
      .filter((move) => move.length * move.repeat === shot.length && behaviourOf(move).loops?.(move) === false)
      .map((move) => ({ shot: shot.id, move: move.id })),
  );
