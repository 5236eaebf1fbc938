import type { Move, MoveKind } from '@zippy/core/document';
import { blink } from './blink';
import { flicker } from './flicker';
import { orbit } from './orbit';
import { ramp } from './ramp';
import { travel } from './travel';
import { turntable } from './turntable';
import type { MoveOf, MoveView } from './view';

/** How each kind of move is shown. */
export const MOVE_VIEWS: { [K in MoveKind]: MoveView<MoveOf<K>> } = {
  turntable,
  orbit,
  travel,
  ramp,
  blink,
  flicker,
};

/** How a move is shown; it takes moves of its own kind only. */
export const moveView = ({ kind }: { kind: MoveKind }): MoveView => MOVE_VIEWS[kind] as unknown as MoveView<Move>;

/** What a move's block says of itself. */
export function moveText(move: Move): string {
  const times = move.repeat > 1 ? `, ${move.repeat} times` : '';
  return `${moveView(move).says(move)}${times}`;
}
