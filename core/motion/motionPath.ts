import type { ProjectDocument, Shot, Vector3 } from '../document';
import { carried, gripPlace, type Grip } from '../scene';
import { evaluateProperties } from './evaluate';
import { behaviourOf, changedBy, heededBy } from './moves';
import { movedPart } from './movedPart';

/** The way of a thing through the world over a shot. */
export interface MotionPath {
  /** The frames of the places, ascending. */
  frames: number[];
  places: Vector3[];
  /** Where its own place has keys. */
  keys: { frame: number; place: Vector3 }[];
}

/** Places of a path; a longer shot is shown by every second frame, third, and so on. */
const MOST_PLACES = 1500;
/** Of the size of what is shown, below which nothing moves. */
const STILL = 1e-6;

/**
 * Where a node's turning point, a light or a camera is on every frame of a shot.
 * @returns null where it stays in its place all the time, or is gone
 */
export function motionPath(document: ProjectDocument, shot: Shot, grip: Grip): MotionPath | null {
  if (!document[grip.collection][grip.id]) return null;
  const paths = pathsTo(document, shot, grip);
  const own = ofThings(shot, paths);
  const part = movedPart(document, own, paths);
  const at = (frame: number) => gripPlace(evaluateProperties(part, own, frame), grip)!;
  const step = Math.ceil(shot.length / MOST_PLACES);
  const frames = Array.from({ length: Math.ceil(shot.length / step) }, (_, k) => 1 + k * step);
  const places = frames.map(at);
  const extent = Math.max(...[0, 1, 2].map((k) => spread(places.map((place) => place[k]!))));
  const farthest = Math.max(1, ...places.flat().map(Math.abs));
  if (extent <= STILL * farthest) return null;
  const keys = (shot.tracks[placeOf(grip)] ?? []).map(({ frame }) => ({ frame, place: at(frame) }));
  return { frames, places, keys };
}

/**
 * The value that a key of a thing's place takes where the thing shall be carried by a distance in the world on that frame.
 * @returns null where there is no such key
 */
export function keyCarried(
  document: ProjectDocument,
  shot: Shot,
  grip: Grip,
  frame: number,
  by: Vector3,
): Vector3 | null {
  const path = placeOf(grip);
  if (!shot.tracks[path]?.some((key) => key.frame === frame)) return null;
  const part = movedPart(document, shot, pathsTo(document, shot, grip));
  const state = evaluateProperties(part, shot, frame);
  // What a move adds to its place must not become part of the key.
  const values = Object.entries(shot.moves).filter(([, move]) => behaviourOf(move).drives === 'value');
  const resting = evaluateProperties(part, { ...shot, moves: Object.fromEntries(values) }, frame);
  const own = resting[grip.collection][grip.id];
  if (!own) return null;
  const held = { ...state, [grip.collection]: { ...state[grip.collection], [grip.id]: own } };
  return (carried(held, grip, by)[path] as Vector3 | undefined) ?? null;
}

/** A shot with keys and changes of some things only: of the rest none has to be looked up on every frame. */
function ofThings(shot: Shot, paths: readonly string[]): Shot {
  const wanted = new Set(paths);
  const only = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([path]) => wanted.has(path.split('/', 2).join('/'))));
  return { ...shot, tracks: only(shot.tracks), changes: only(shot.changes) };
}

const placeOf = ({ collection, id }: Grip): string => `${collection}/${id}/position`;

/** The thing, and all that it hangs under, stays aimed at or goes by. */
function pathsTo(document: ProjectDocument, shot: Shot, { collection, id }: Grip): string[] {
  const paths = [`${collection}/${id}`];
  const thing = document[collection][id]!;
  const followed = 'aimOn' in thing ? (thing.aimOn?.node ?? null) : null;
  const heeded = Object.values(shot.moves).flatMap((move) =>
    changedBy(move).includes(paths[0]!) ? heededBy(move) : [],
  );
  for (const first of [thing.parent, followed, ...heeded])
    for (let up = first; up !== null; up = document.nodes[up]?.parent ?? null) paths.push(`nodes/${up}`);
  return paths;
}

const spread = (values: number[]): number =>
  values.reduce((a, b) => Math.max(a, b)) - values.reduce((a, b) => Math.min(a, b));
