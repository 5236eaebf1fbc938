import {
  propertyKind,
  readProperty,
  type Key,
  type Move,
  type ProjectDocument,
  type PropertyKind,
  type Shot,
  type Value,
  type Vector3,
} from '../document';
import { multiplyQuaternions, quaternionFromTurn, turnFromQuaternion } from '../geometry';
import { placedAimed, unplaceAimed, unwound, worldTransforms, type SceneState } from '../scene';
import { evaluateProperties } from './evaluate';
import { behaviourOf, changedBy } from './moves';
import { trackValue } from './track';

/** What becomes of moves that are unfolded. */
export interface Unfolded {
  /** Ids of the moves that the keys stand for: with each go those that act on the same thing, as they build on one another. */
  moves: string[];
  /** Keys by the path of their property. */
  tracks: Record<string, Key[]>;
  /** Ids of cameras whose sharpness the keys tell from now on, and of cameras and lights whose aim they do. */
  sharp: string[];
  aimed: string[];
}

/** What moves change of whole things. */
const OF_THING = {
  nodes: ['position', 'turn'],
  lights: ['position', 'target'],
  cameras: ['position', 'target', 'roll', 'focalLength', 'focusDistance'],
} as const;
/** Of the larger of the values, by which a key may be off what lies between its neighbours. */
const STRAIGHT = 1e-9;

/**
 * Keys that move things just as moves of a shot do: on every frame the same values, with no key where a straight way between its
 * neighbours says the same.
 * @param ids the moves
 */
export function unfoldMoves(document: ProjectDocument, shot: Shot, ids: readonly string[]): Unfolded {
  // What reaches copies one after the other no key of their node can say.
  const acting = Object.values(shot.moves).filter((move) => !move.muted && !reachesCopies(document, move));
  const taken = together(acting, new Set(ids));
  const still = {
    ...shot,
    moves: Object.fromEntries(acting.flatMap((move) => (taken.includes(move) ? [] : [[move.id, move]]))),
  };
  const frames = Array.from({ length: shot.length + 1 }, (_, k) => k + 1);
  const states = frames.map((frame) => turnedIn(evaluateProperties(document, shot, frame)));
  const before = turnedIn(evaluateProperties(document, still, 1));
  const tracks: Record<string, Key[]> = {};
  const [sharp, aimed] = [new Set<string>(), new Set<string>()];
  for (const move of taken) {
    for (const path of changedBy(move)) {
      const driven = behaviourOf(move).drives === 'value';
      for (const property of driven ? [path] : ofThing(path)) {
        const values = states.map((state) => readProperty(state, property));
        if (values.some((value) => value === undefined)) continue;
        const kind = propertyKind(property, values[0]!);
        const told = { frames, values: values as Value[], kind };
        const acting = taken.filter((each) => changedBy(each).includes(path));
        const keys = (acting.length === 1 && inTwo(move, told)) || keysOf(told, move.kind === 'switching');
        // Where nothing came of it, nothing is written.
        if (keys.length > 1 || !alike(keys[0]!.value, readProperty(before, property))) tracks[property] = keys;
      }
      if (move.kind === 'focusPull') sharp.add(path.split('/')[1]!);
      if (move.kind === 'aimPull') aimed.add(path.split('/')[1]!);
    }
  }
  return { moves: taken.map(({ id }) => id), tracks, sharp: [...sharp], aimed: [...aimed] };
}

/** Puts the keys of unfolded moves in the place of the moves. */
export function putUnfolded(draft: ProjectDocument, shot: string, { moves, tracks, sharp, aimed }: Unfolded): void {
  const own = draft.shots[shot];
  if (!own) return;
  for (const id of moves) delete own.moves[id];
  Object.assign(own.tracks, tracks);
  for (const id of sharp) if (draft.cameras[id]) draft.cameras[id].focusOn = null;
  for (const id of aimed) {
    const thing = draft.cameras[id] ?? draft.lights[id];
    if (thing) thing.aimOn = null;
  }
}

const reachesCopies = ({ nodes }: ProjectDocument, move: Move): boolean =>
  move.perCopy !== 0 && changedBy(move).some((path) => nodes[path.split('/')[1] ?? '']?.copies);

/** The moves of these ids, and all that act on what they act on. */
function together(acting: readonly Move[], ids: ReadonlySet<string>): Move[] {
  let taken = acting.filter(({ id }) => ids.has(id));
  for (;;) {
    const paths = new Set(taken.flatMap(changedBy));
    const more = acting.filter((move) => changedBy(move).some((path) => paths.has(path)));
    if (more.length === taken.length) return taken;
    taken = more;
  }
}

const ofThing = (path: string): string[] =>
  (OF_THING[path.split('/')[0] as 'nodes'] ?? []).map((name) => `${path}/${name}`);

/** A state in which turns that moves add are part of the nodes' own, and cameras are as far sharp as they follow. */
function turnedIn(state: SceneState): SceneState {
  const nodes = { ...state.nodes };
  for (const [id, spin] of state.spins) {
    const node = nodes[id];
    if (!node) continue;
    nodes[id] = { ...node, turn: turnFromQuaternion(multiplyQuaternions(spin, quaternionFromTurn(node.turn))) };
  }
  const [cameras, lights] = [{ ...state.cameras }, { ...state.lights }];
  if (state.pulls.size + state.aims.size > 0) {
    const placed = placedAimed(state);
    const world = worldTransforms(state);
    for (const id of state.pulls.keys())
      cameras[id] = { ...cameras[id]!, focusDistance: placed.cameras[id]!.focusDistance };
    for (const id of state.aims.keys()) {
      const record = id in cameras ? cameras : lights;
      const aimed = (id in cameras ? placed.cameras : placed.lights)[id]!;
      const carrier = aimed.parent === null ? undefined : world.get(aimed.parent);
      const { target } = carrier ? unplaceAimed(aimed, carrier) : aimed;
      (record as Record<string, typeof aimed>)[id] = { ...record[id]!, target };
    }
  }
  return { ...state, nodes, cameras, lights, spins: new Map(), pulls: new Map(), aims: new Map() };
}

/** A property on every frame. */
interface Told {
  frames: readonly number[];
  values: Value[];
  kind: PropertyKind;
}

/** Two keys with the pace of a move, where they say the same on every frame; null where they do not. */
function inTwo({ start, length, pace }: Move, { frames, values, kind }: Told): [Key, Key] | null {
  if (kind === 'boolean' || kind === 'choice') return null;
  const row = kind === 'rotation' ? unwound(values as Vector3[]) : values;
  for (const last of [start + length - 1, start + length]) {
    const [from, to] = [row[start - frames[0]!], row[last - frames[0]!]];
    if (from === undefined || to === undefined || last <= start || near(from, to)) continue;
    const keys: [Key, Key] = [
      { frame: start, value: from, pace },
      { frame: last, value: to, pace: 'linear' },
    ];
    if (frames.every((frame, k) => near(trackValue(keys, frame, kind), row[k]!))) return keys;
  }
  return null;
}

/** Whether two values are the same but for rounding. */
function near(a: Value, b: Value): boolean {
  if (Array.isArray(a) && Array.isArray(b)) return a.every((v, k) => near(v, b[k]!));
  return (
    typeof a === 'number' &&
    typeof b === 'number' &&
    Math.abs(a - b) <= STRAIGHT * Math.max(1, Math.abs(a), Math.abs(b))
  );
}

function keysOf({ frames, values, kind }: Told, jumps: boolean): Key[] {
  const held = jumps || kind === 'boolean' || kind === 'choice';
  const row = kind === 'rotation' ? unwound(values as Vector3[]) : values;
  const needed = row.map((value, k) => {
    if (k === 0) return true;
    if (held) return !alike(value, row[k - 1]);
    return k === row.length - 1 || !between(row[k - 1]!, value, row[k + 1]!, kind === 'rotation');
  });
  const keys = frames.flatMap((frame, k) =>
    needed[k] ? [{ frame, value: row[k]!, pace: held ? ('held' as const) : ('linear' as const) }] : [],
  );
  const [first, last] = [keys[0]!, keys.at(-1)!];
  return keys.length === 2 && alike(first.value, last.value) ? [first] : keys;
}

/** Whether a value lies in the middle of its neighbours, on the way that keys of them would take. */
function between(a: Value, b: Value, c: Value, turns: boolean): boolean {
  const middle = (from: number, at: number, to: number) =>
    Math.abs((from + to) / 2 - at) <= STRAIGHT * Math.max(1, Math.abs(from), Math.abs(to));
  if (typeof b === 'number') return middle(a as number, b, c as number);
  if (!Array.isArray(a) || !Array.isArray(b) || !Array.isArray(c)) return false;
  // Turns about several axes at once go the short way between poses instead.
  if (turns && b.filter((v, k) => Math.abs(v - a[k]!) > STRAIGHT || Math.abs(v - c[k]!) > STRAIGHT).length > 1)
    return false;
  return b.every((v, k) => middle(a[k]!, v, c[k]!));
}

const alike = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
