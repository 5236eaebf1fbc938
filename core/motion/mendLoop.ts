import { propertyKind, type Key, type ProjectDocument, type Shot, type Value, type Vector3 } from '../document';
import { thingOf } from './carry';
import { behaviourOf, changedBy, moveEnd, thereAndBack } from './moves';
import { findSeamFaults } from './seam';
import { trackValue } from './track';

const TURN = 2 * Math.PI;
/** Of a whole turn, by which a turn may miss it and still be meant to be one. */
const MEANT = 0.06;

/**
 * Has a shot run from its last frame into its first: turns become whole, what goes away comes back, what is there on the last frame
 * already arrives one frame later. What does so already stays as it is.
 */
export function mendLoop(document: ProjectDocument, shot: Shot): Shot {
  const faults = findSeamFaults(document, shot);
  if (!faults || faults.length === 0) return shot;
  const made = structuredClone(shot);
  const paths = new Set(faults.map(({ path }) => path));
  const things = new Set(faults.map(({ path }) => thingOf(path)));
  const atFault = (path: string) => paths.has(path) || paths.has(thingOf(path));
  for (const move of Object.values(made.moves)) {
    const carries = behaviourOf(move).drives === 'place';
    if (move.muted || !changedBy(move).some((path) => (carries ? things.has(thingOf(path)) : atFault(path)))) continue;
    // What is cut off by the end of the shot has to fit in.
    if (moveEnd(move) > shot.length + 1) move.length = Math.max(1, (shot.length + 1 - move.start) / move.repeat);
    const { close } = behaviourOf(move);
    if (close) close(move, shot.length);
    else thereAndBack(move);
  }
  for (const [path, keys] of Object.entries(made.tracks))
    if (atFault(path)) made.tracks[path] = closed(path, keys, shot.length);
  const left = findSeamFaults(document, made) ?? [];
  // What arrives where it began, but at another speed, comes to rest there.
  for (const { path, jump } of left) if (jump === 0) rest(made, path);
  return made;
}

/** Of a shot, after which keys leave no time to come back. */
const LATE = 0.7;

/** Keys that come back to their first value on the frame after the last one of the shot. */
function closed(path: string, keys: readonly Key[], length: number): Key[] {
  const first = keys[0];
  if (!first) return [];
  const kind = propertyKind(path, first.value);
  const begun = trackValue(keys, 1, kind);
  const within = keys.filter(({ frame }) => frame <= length);
  const last = within.at(-1) ?? first;
  const value = whole(begun, last.value, kind === 'rotation');
  const end = { frame: length + 1, value, pace: last.pace };
  const late = within.length > 1 && last.frame > LATE * length;
  // Back already, or round: it only comes too early.
  if (late && (alike(last.value, value) || !alike(begun, value))) return [...within.slice(0, -1), end];
  if (!late || kind === 'boolean' || kind === 'choice') return [...within, end];
  // There in half the time, and the same way back in the other.
  const half = within.map((key) => ({
    ...key,
    frame: Math.round(1 + ((key.frame - 1) * length) / (2 * (last.frame - 1))),
  }));
  const back = half
    .slice(0, -1)
    .map((key, k) => ({ ...half[k]!, frame: length + 2 - key.frame, pace: 'ease' as const }));
  return [
    ...half.map((key) => ({ ...key, pace: key.pace === 'linear' ? ('ease' as const) : key.pace })),
    ...back.reverse(),
  ];
}

/** A turn that was nearly whole is made so instead of being taken back. */
function whole(begun: Value, last: Value, turns: boolean): Value {
  if (!turns || !Array.isArray(begun) || !Array.isArray(last)) return begun;
  return begun.map((angle, k) => {
    const rounds = (last[k]! - angle) / TURN;
    return Math.abs(rounds - Math.round(rounds)) < MEANT ? angle + Math.round(rounds) * TURN : angle;
  }) as Vector3;
}

const alike = (a: Value, b: Value): boolean => JSON.stringify(a) === JSON.stringify(b);

function rest(shot: Shot, path: string): void {
  for (const [at, keys] of Object.entries(shot.tracks)) {
    if (at !== path && thingOf(at) !== path) continue;
    const before = keys.at(-2);
    if (keys[0] && keys.length > 1) keys[0].pace = 'ease';
    if (before) before.pace = 'ease';
  }
}
