import { z } from 'zod';
import { newId } from '../../document/properties/ids';
import { defaultsOf } from '../../document/properties/property';
import type { Vector } from '../../geometry';
import { blink } from './blink';
import { flicker } from './flicker';
import { MOVE, type Behaviour, type Occasion } from './kind';
import { orbit } from './orbit';
import { paced } from './pace';
import { movePhase } from './phase';
import { ramp } from './ramp';
import { travel } from './travel';
import { turntable } from './turntable';

export { blendValues } from './blend';
export { MOVE, type Carrier, type Pose, type SpaceChange } from './kind';
export { paced } from './pace';
export { moveEnd } from './phase';

/** Every kind of move. */
export const MOVE_KINDS = { turntable, orbit, travel, ramp, blink, flicker };

export type MoveKind = keyof typeof MOVE_KINDS;
type MoveSchema = (typeof MOVE_KINDS)[MoveKind]['schema'];
export const moveSchema = z.discriminatedUnion(
  'kind',
  Object.values(MOVE_KINDS).map(({ schema }) => schema) as unknown as [MoveSchema, ...MoveSchema[]],
);
export type Move = z.infer<typeof moveSchema>;

/** What a move does; it takes moves of its own kind only. */
export const behaviourOf = (move: { kind: MoveKind }): Behaviour<Move> =>
  MOVE_KINDS[move.kind] as unknown as Behaviour<Move>;

/**
 * Where a move stands at a frame, as a part of one run; a run to and fro goes there and back.
 * A move that comes to rest reaches 1 on the last frame of its block. A cyclic one reaches 1 on the frame after it, so that
 * its first picture is not shown twice.
 */
export const moveProgress = (move: Move, frame: number): number =>
  movePhase(move, behaviourOf(move).cyclic, frame).within;

/** The same after its pace. */
export const movePaced = (move: Move, frame: number): number => paced(move.pace, moveProgress(move, frame));

/**
 * A move with plain numbers that shows its effect at once.
 * @param target an entity, or a property for what drives values
 */
export function newMove(
  kind: MoveKind,
  target: string,
  start: number,
  length: number,
  occasion: Partial<Occasion> = {},
): Move {
  const { title, pace, properties, extra } = MOVE_KINDS[kind];
  const about: Occasion = { axis: [0, 1, 0] as Vector, size: 250, present: undefined, ...occasion };
  return {
    id: newId(),
    name: title,
    target,
    kind,
    ...defaultsOf(MOVE),
    start,
    length,
    pace,
    ...defaultsOf(properties),
    ...Object.fromEntries(Object.entries(extra).map(([name, each]) => [name, (each as { default: unknown }).default])),
    ...behaviourOf({ kind }).begin?.(about),
  } as Move;
}
