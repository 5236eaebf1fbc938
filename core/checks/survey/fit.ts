import { readProperty, type Move, type ProjectDocument, type Shot, type Value, type Vector3 } from '../../document';
import { add, scale, subtract } from '../../geometry';
import { evaluateProperties } from '../../motion';
import { surveyShot, type Shapes } from './surveyShot';

/** What gives room: the camera stands farther away, or its lens sees more. */
export type FitBy = 'distance' | 'lens';

/** Room that is left at the edges, of the half picture. */
const ROOM = 1.04;
const STEPS = 18;
const FARTHEST = 64;

/**
 * Gives a shot just so much room that all of what shall be seen stays in the picture, from the first frame to the last: its camera's
 * places, keys, viewpoints and lenses are changed in proportion, for this shot alone.
 * @returns the shot as it becomes; null where no room is enough
 */
export function fitShot(document: ProjectDocument, shot: Shot, shapes: Shapes, aspect: number, by: FitBy): Shot | null {
  const reach = (share: number): number => {
    const wider = widened(document, shot, by, share);
    const shots = { ...document.shots, [shot.id]: wider };
    return surveyShot({ ...document, shots }, wider, shapes, aspect)?.reach ?? 0;
  };
  if (reach(1) * ROOM <= 1) return shot;
  let [low, high] = [1, 2];
  while (reach(high) * ROOM > 1) {
    [low, high] = [high, high * 2];
    if (high > FARTHEST) return null;
  }
  for (let step = 0; step < STEPS; step++) {
    const middle = (low + high) / 2;
    if (reach(middle) * ROOM > 1) low = middle;
    else high = middle;
  }
  return widened(document, shot, by, high);
}

function widened(document: ProjectDocument, shot: Shot, by: FitBy, share: number): Shot {
  const made = structuredClone(shot);
  const at = `cameras/${shot.camera}`;
  if (by === 'lens') {
    changeAll(document, made, `${at}/focalLength`, (value) => (value as number) / share);
    for (const move of Object.values(made.moves)) if (move.target === at) shortenLens(move, share);
  } else {
    const aim = (frame: number): Vector3 => evaluateProperties(document, shot, frame).cameras[shot.camera!]!.target;
    changeAll(document, made, `${at}/position`, (value, frame) => {
      const target = aim(frame);
      return add(target, scale(subtract(value as Vector3, target), share));
    });
    for (const move of Object.values(made.moves)) if (move.target === at) widen(move, share);
  }
  return made;
}

/** Changes what a shot gives a property: its keys, or its own value where it has none. */
function changeAll(
  document: ProjectDocument,
  shot: Shot,
  path: string,
  change: (value: Value, frame: number) => Value,
): void {
  const keys = shot.tracks[path];
  if (keys && keys.length > 0) {
    for (const key of keys) key.value = change(key.value, key.frame);
    return;
  }
  const value = shot.changes[path] ?? readProperty(document, path);
  if (value !== undefined) shot.changes[path] = change(value, 1);
}

function shortenLens(move: Move, share: number): void {
  if (move.kind === 'lensPush') [move.from, move.to] = [Math.max(4, move.from / share), Math.max(4, move.to / share)];
  if (move.kind === 'route')
    for (const station of move.stations) station.focalLength = Math.max(4, station.focalLength / share);
}

function widen(move: Move, share: number): void {
  if (move.kind === 'route')
    for (const station of move.stations) {
      station.position = add(station.target, scale(subtract(station.position, station.target), share));
      station.focusDistance *= share;
    }
}
