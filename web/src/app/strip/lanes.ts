import {
  entityName,
  propertyKind,
  readProperty,
  type Key,
  type Move,
  type ProjectDocument,
  type Shot,
  type Value,
} from '@zippy/core/document';
import { evaluateProperties, moveProgress, paced } from '@zippy/core/motion';

/** One moving thing on the time strip. */
export interface Lane {
  /** Property path, or `move/ID` for moves of whole places. */
  id: string;
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
    const drives = move.kind === 'ramp' || move.kind === 'blink';
    const id = drives ? move.target : `move/${move.target}/${move.kind}`;
    const lane = lanes.get(id) ?? { track: null, path: move.target, moves: [] };
    lane.moves.push(move);
    lanes.set(id, lane);
  }
  const drawn = [...lanes].filter(([id]) => !id.startsWith('move/'));
  const values = new Map<string, number[]>(drawn.map(([id]) => [id, []]));
  for (let frame = 1; frame <= shot.length && drawn.length > 0; frame++) {
    const state = evaluateProperties(document, shot, frame);
    for (const [id] of drawn) values.get(id)!.push(scalar(readProperty(state, id)));
  }
  return [...lanes].map(([id, { track, path, moves }]) => {
    const place = id.startsWith('move/');
    const raw = place
      ? Array.from({ length: shot.length }, (_, k) =>
          Math.max(...moves.map((move) => paced(move.pace, moveProgress(move, k + 1)))),
        )
      : distances(document, id, shot, values.get(id)!);
    const low = Math.min(...raw);
    const high = Math.max(...raw);
    const property = path.split('/').slice(2).join(' ');
    return {
      id,
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
  return value ? Math.hypot(...value) : 0;
}

/** Vectors are drawn as the distance from where they begin. */
function distances(document: ProjectDocument, path: string, shot: Shot, fallback: number[]): number[] {
  const first = readProperty(evaluateProperties(document, shot, 1), path);
  if (first === undefined || !['vector', 'rotation'].includes(propertyKind(path, first))) return fallback;
  return Array.from({ length: shot.length }, (_, k) => {
    const value = readProperty(evaluateProperties(document, shot, k + 1), path) as [number, number, number];
    return Math.hypot(...value.map((v, axis) => v - (first as [number, number, number])[axis]!));
  });
}

/** What a move's block says of itself. */
export function moveText(move: Move): string {
  const times = move.repeat > 1 ? `, ${move.repeat} times` : '';
  switch (move.kind) {
    case 'turntable':
      return `${move.turns} ${move.turns === 1 ? 'turn' : 'turns'}${times}`;
    case 'orbit':
      return `${Math.round((move.angle * 180) / Math.PI)}°${times}`;
    case 'travel':
      return `${Math.round(Math.hypot(...move.to.map((v, k) => v - move.from[k]!)))} mm${times}`;
    case 'ramp':
      return `${shown(move.from)} to ${shown(move.to)}${times}`;
    case 'blink':
      return `${move.count} times${times}`;
  }
}

const shown = (value: Value): string =>
  typeof value === 'number'
    ? String(Math.round(value * 100) / 100)
    : typeof value === 'boolean'
      ? value
        ? 'on'
        : 'off'
      : '…';
