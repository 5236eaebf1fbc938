import * as z from 'zod';
import { newId } from '../../document/properties/ids';
import { defaultsOf } from '../../document/properties/property';
import type { Vector } from '../../geometry';
import { aimPull } from './aimPull';
import { blink } from './blink';
import { dolly } from './dolly';
import { explode } from './explode';
import { flicker } from './flicker';
import { float } from './float';
import { focusPull } from './focusPull';
import { follow } from './follow';
import { hinge } from './hinge';
import { MOVE, type Behaviour, type Occasion } from './kind';
import { lensPush } from './lensPush';
import { orbit } from './orbit';
import { paced } from './paces';
import { movePhase } from './phase';
import { ramp } from './ramp';
import { route } from './route';
import { shake } from './shake';
import { stops } from './stops';
import { switching } from './switching';
import { tick } from './tick';
import { travel } from './travel';
import { turntable } from './turntable';

export { blendValues } from './blend';
export { MOVE, type Around, type Carrier, type Driven, type Occasion, type Pose, type SpaceChange } from './kind';
export { paced, springResponse } from './paces';
export { moveEnd } from './phase';
export { stationOf } from './route';
export { thereAndBack } from './thereAndBack';

/** Every kind of move. */
export const MOVE_KINDS = {
  turntable,
  hinge,
  tick,
  travel,
  float,
  shake,
  explode,
  follow,
  orbit,
  dolly,
  route,
  lensPush,
  focusPull,
  aimPull,
  ramp,
  stops,
  blink,
  flicker,
  switching,
};

export type MoveKind = keyof typeof MOVE_KINDS;
type MoveSchema = (typeof MOVE_KINDS)[MoveKind]['schema'];
export const moveSchema = z.discriminatedUnion(
  'kind',
  Object.values(MOVE_KINDS).map(({ schema }) => schema) as unknown as [MoveSchema, ...MoveSchema[]],
);
export type Move = z.infer<typeof moveSchema>;

/** Paths of the things that a move carries, such as `nodes/ID`, or of the property that it sets. */
export function changedBy(move: Move): string[] {
  const behaviour = behaviourOf(move);
  const among = behaviour.drives === 'place' ? behaviour.among?.(move) : undefined;
  return among ? among.map((id) => `nodes/${id}`) : [move.target];
}

/** Ids of nodes that a move goes by without carrying them. */
export function heededBy(move: Move): string[] {
  const behaviour = behaviourOf(move);
  return behaviour.drives === 'place' ? (behaviour.heeds?.(move) ?? []) : [];
}

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
  const about: Occasion = {
    axis: [0, 1, 0] as Vector,
    size: 250,
    center: null,
    present: undefined,
    camera: null,
    apart: [],
    ...occasion,
  };
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
