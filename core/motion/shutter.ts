import type { ProjectDocument, Shot } from '../document';
import { polarDecomposition } from '../geometry';
import { evaluate, type FrameState } from './evaluate';

/** Radians that a part may turn in one slice: within it, it moves evenly on. */
const MOST_TURN = 0.12;
/** Slices where numbers, colours or lights change, which stand still within each. */
const STEPS_OF_VALUES = 16;
const MOST_SLICES = 32;

/**
 * One frame of a shot with what moves while the shutter is open. The shutter opens on the frame, so that a value that
 * is switched at a frame is whole on it, and a loop stays a loop.
 * @param next whether the frame that follows is told too
 * @param blurred whether the shutter stays open at all
 */
export function exposeFrame(
  document: ProjectDocument,
  shot: Shot | null,
  frame: number,
  { next = false, blurred = true }: { next?: boolean; blurred?: boolean } = {},
): FrameState {
  const state = evaluate(document, shot, frame);
  const moving = shot !== null && Object.keys(shot.tracks).length + Object.keys(shot.moves).length > 0;
  const angle = state.camera?.shutterAngle ?? 0;
  if (next) state.next = moving ? evaluate(document, shot, frame + 1) : { ...state };
  if (!moving || !blurred || angle <= 0) return state;
  const open = angle / (2 * Math.PI);
  const at = (time: number) => evaluate(document, shot, frame + time * open);
  const count = slicesFor(state, at(0.5), at(1));
  if (count === 0) return state;
  const ends = Array.from({ length: count + 1 }, (_, k) => at(k / count));
  state.shutter = Array.from({ length: count }, (_, k) => ({
    from: ends[k]!,
    middle: at((k + 0.5) / count),
    to: ends[k + 1]!,
  }));
  return state;
}

/** How many slices tell three moments apart: none where they are alike. */
function slicesFor(first: FrameState, middle: FrameState, last: FrameState): number {
  const values = ({ finishes, lights, set, parts }: FrameState) =>
    JSON.stringify([finishes, lights, set, parts.map(({ node, finish, glow, seen }) => [node, finish, glow, seen])]);
  const places = ({ parts, camera }: FrameState) => JSON.stringify([parts.map(({ transform }) => transform), camera]);
  const middleValues = values(middle);
  const valuesMove = values(first) !== middleValues || values(last) !== middleValues;
  const middlePlaces = places(middle);
  const placesMove = places(first) !== middlePlaces || places(last) !== middlePlaces;
  if (!valuesMove && !placesMove) return 0;
  const turns = placesMove ? first.parts.map((part, k) => turnBetween(part.transform, last.parts[k]?.transform)) : [];
  const bySteps = valuesMove ? STEPS_OF_VALUES : 1;
  return Math.min(MOST_SLICES, Math.max(bySteps, Math.ceil(Math.max(0, ...turns) / MOST_TURN), placesMove ? 2 : 1));
}

function turnBetween(
  from: FrameState['parts'][number]['transform'],
  to: FrameState['parts'][number]['transform'] | undefined,
): number {
  if (!to || from.every((v, k) => v === to[k])) return 0;
  const [a, b] = [polarDecomposition(from).rotation, polarDecomposition(to).rotation];
  return 2 * Math.acos(Math.min(1, Math.abs(a.reduce((sum, v, k) => sum + v * b[k]!, 0))));
}
