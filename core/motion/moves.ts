import type { Move } from '../document';
import { paced } from './pace';

/** How many runs of a move are over at a frame, and where it stands within the present one, 0 to 1 and back where it goes to and fro. */
function movePhase(move: Move, frame: number): { runs: number; within: number } {
  const local = frame - move.start;
  if (local <= 0) return { runs: 0, within: 0 };
  const cyclic = move.kind === 'turntable' || move.kind === 'blink' || move.repeat > 1 || move.mirrored;
  const total = move.length * move.repeat;
  if (local >= (cyclic ? total : total - 1)) return { runs: move.repeat - 1, within: move.mirrored ? 0 : 1 };
  const span = cyclic ? move.length : Math.max(1, move.length - 1);
  const runs = Math.floor(local / span);
  const within = local / span - runs;
  return { runs, within: move.mirrored ? 1 - Math.abs(2 * within - 1) : within };
}

/**
 * Where a move stands at a frame, as a part of one run; a run to and fro goes there and back.
 * A move that comes to rest reaches 1 on the last frame of its block. A cyclic one reaches 1 on the frame after it, so that
 * its first picture is not shown twice.
 */
export const moveProgress = (move: Move, frame: number): number => movePhase(move, frame).within;

/** Frame after the last one that a move changes. */
export const moveEnd = (move: Move): number => move.start + move.length * move.repeat;

/** The angle in radians of a turntable or orbit at a frame. Each run goes on where the one before ended, unless it came back. */
export function moveAngle(move: Extract<Move, { kind: 'turntable' | 'orbit' }>, frame: number): number {
  const { runs, within } = movePhase(move, frame);
  const turned = paced(move.pace, within) + (move.mirrored ? 0 : runs);
  return move.kind === 'turntable'
    ? move.startAngle + move.direction * move.turns * 2 * Math.PI * turned
    : move.angle * turned;
}

/** Brightness of a blink at a frame: `low` before, between and after blinks. */
export function blinkValue(move: Extract<Move, { kind: 'blink' }>, frame: number): number {
  if (frame < move.start || frame >= moveEnd(move)) return move.low;
  const phase = (((frame - move.start) / move.length) * move.count) % 1;
  return move.low + (move.high - move.low) * blinkShape(phase, move.duty, move.softness);
}

/** A window of width `duty` whose flanks take the part `softness` of half the window, as raised cosines. */
function blinkShape(phase: number, duty: number, softness: number): number {
  if (phase >= duty) return 0;
  const flank = (softness * duty) / 2;
  const fromEdge = Math.min(phase, duty - phase);
  if (flank <= 0 || fromEdge >= flank) return 1;
  return 0.5 - 0.5 * Math.cos((Math.PI * fromEdge) / flank);
}
