import type { Timed } from './kind';

/** Has a move come back in its own time, without a jolt where it turns round or begins anew. */
export function thereAndBack(move: Timed): void {
  move.mirrored = true;
  if (move.pace === 'linear') move.pace = 'ease';
}
