import type { Timed } from './kind';

/** How many runs of a move are over at a frame, and where it stands within the present one, 0 to 1 and back where it goes to and fro. */
export function movePhase(move: Timed, cyclicKind: boolean, frame: number): { runs: number; within: number } {
  const local = frame - move.start;
  if (local <= 0) return { runs: 0, within: 0 };
  const cyclic = cyclicKind || move.repeat > 1 || move.mirrored;
  const total = move.length * move.repeat;
  if (local >= (cyclic ? total : total - 1)) return { runs: move.repeat - 1, within: move.mirrored ? 0 : 1 };
  const span = cyclic ? move.length : Math.max(1, move.length - 1);
  const runs = Math.floor(local / span);
  const within = local / span - runs;
  return { runs, within: move.mirrored ? 1 - Math.abs(2 * within - 1) : within };
}

/** Frame after the last one that a move changes. */
export const moveEnd = (move: Timed): number => move.start + move.length * move.repeat;
