import type { Move, MoveKind } from '@zippy/core/document';
import { aimPull } from './aimPull';
import { blink } from './blink';
import { dolly } from './dolly';
import { explode } from './explode';
import { flicker } from './flicker';
import { float } from './float';
import { focusPull } from './focusPull';
import { follow } from './follow';
import { hinge } from './hinge';
import { lensPush } from './lensPush';
import { orbit } from './orbit';
import { ramp } from './ramp';
import { route } from './route';
import { shake } from './shake';
import { stops } from './stops';
import { switching } from './switching';
import { tick } from './tick';
import { travel } from './travel';
import { turntable } from './turntable';
import type { MoveFamily, MoveOf, MoveStart, MoveView } from './view';

export type { MoveStart } from './view';

/** How each kind of move is shown. */
export const MOVE_VIEWS: { [K in MoveKind]: MoveView<MoveOf<K>> } = {
  turntable,
  hinge,
  tick,
  travel,
  float,
  explode,
  follow,
  shake,
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

/** How a move is shown; it takes moves of its own kind only. */
export const moveView = ({ kind }: { kind: MoveKind }): MoveView => MOVE_VIEWS[kind] as unknown as MoveView<Move>;

/** Every way to begin a move, under the heading where the desk offers it. */
export const MOVE_STARTS: readonly { kind: MoveKind; family: MoveFamily; start: MoveStart }[] = (
  Object.keys(MOVE_VIEWS) as MoveKind[]
).flatMap((kind) => {
  const { family, starts } = moveView({ kind });
  return starts.map((start) => ({ kind, family, start }));
});

/** What a move's block says of itself. */
export function moveText(move: Move): string {
  const times = move.repeat > 1 ? `, ${move.repeat} times` : '';
  return `${moveView(move).says(move)}${times}`;
}
