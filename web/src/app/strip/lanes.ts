import {
  entityName,
  propertyKind,
  type Key,
  type Move,
  type ProjectDocument,
  type Shot,
  type Value,
} from '@zippy/core/document';
import { MOVE_KINDS, movePaced, sampleProperty } from '@zippy/core/motion';

/** One moving thing on the time strip. */
export interface Lane {
  /** Property path, or `move/ID` for moves of whole places. */
  id: string;
  /** What moves, such as `nodes/ID`. */
  thing: string;
  /** The property whose values it draws in full; of moves of places the place. */
  path: string;
  name: string;
  property: string;
  /** Light and emission, or motion. */
  tone: 'light' | 'motion';
  keys: readonly Key[];
  /** Path of the keys' track; null where the lane is of moves only. */
  track: string | null;
  moves: Move[];
  /** Value on each frame of the shot, 0 to 1. */
  graph: number[];
  low: number;
  high: number;
}

const WORDS: Record<string, string> = {
  position: 'position', turn: 'turn', scale: 'size', power: 'power', emissionPower: 'power', glow: 'glow', focusDistance: 'sharp at', fStop: 'f-stop', focalLength: 'focal length', visible: 'shown', target: 'aim', brightness: 'brightness', on: 'on',
}; // prettier-ignore

/** A property that has no word of its own by its name, spaced: `emissionColor` is `emission color`. */
const sayProperty = (name: string): string =>
  WORDS[name] ??
  name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/\bcolor\b/gi, 'colour')
    .toLowerCase();

/** The lanes of a shot: one per track, one per property that moves drive, one per move of a place. */
export function lanesOf(document: ProjectDocument, shot: Shot): Lane[] {
  const lanes = new Map<string, { track: string | null; path: string; moves: Move[] }>();
  for (const path of Object.keys(shot.tracks)) lanes.set(path, { track: path, path, moves: [] });
  for (const move of Object.values(shot.moves).sort((a, b) => a.start - b.start)) {
    const drives = MOVE_KINDS[move.kind].drives === 'value';
    const id = drives ? move.target : `move/${move.target}/${move.kind}`;
    const lane = lanes.get(id) ?? { track: null, path: move.target, moves: [] };
    lane.moves.push(move);
    lanes.set(id, lane);
  }
  // Lanes of one thing stand together, things in the order in which they began to move.
  const order = [...new Set([...lanes.values()].map(({ path }) => path.split('/', 2).join('/')))];
  const together = [...lanes].sort(
    ([, a], [, b]) => order.indexOf(a.path.split('/', 2).join('/')) - order.indexOf(b.path.split('/', 2).join('/')),
  );
  return together.map(([id, { track, path, moves }]) => {
    const place = id.startsWith('move/');
    const raw = place
      ? Array.from({ length: shot.length }, (_, k) => Math.max(...moves.map((move) => movePaced(move, k + 1))))
      : graphOf(document, id, shot);
    const low = Math.min(...raw);
    const high = Math.max(...raw);
    const property = path.split('/').slice(2).join(' ');
    return {
      id,
      thing: path.split('/', 2).join('/'),
      path: place ? `${path}/position` : path,
      name: entityName(document, path),
      property: place ? moves[0]!.name.toLowerCase() : sayProperty(property),
      tone: /power|glow|brightness|emission|tint|kelvin/i.test(id) ? 'light' : 'motion',
      keys: track ? shot.tracks[track]! : [],
      track,
      moves,
      graph: raw.map((v) => (high > low ? (v - low) / (high - low) : 0.5)),
      low,
      high,
    };
  });
}

function scalar(value: Value | undefined): number {
  if (typeof value === 'number') return value;
  if (typeof value === 'boolean') return value ? 1 : 0;
  if (typeof value === 'string') return 0;
  return value ? Math.hypot(...value) : 0;
}

/** A property as one number on each frame: vectors are drawn as the distance from where they begin. */
function graphOf(document: ProjectDocument, path: string, shot: Shot): number[] {
  const sample = sampleProperty(document, shot, path);
  const values = Array.from({ length: shot.length }, (_, k) => sample(k + 1));
  const [first] = values;
  // Choices are drawn as steps, in the order in which they come.
  if (typeof first === 'string') {
    const names = [...new Set(values)];
    return values.map((value) => names.indexOf(value));
  }
  if (!Array.isArray(first) || !['vector', 'rotation'].includes(propertyKind(path, first))) return values.map(scalar);
  return values.map((value) => Math.hypot(...(value as [number, number, number]).map((v, axis) => v - first[axis]!)));
}
