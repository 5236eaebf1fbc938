import { propertyKind, readProperty, type ProjectDocument, type Shot, type Value } from '../document';
import { actingMoves, evaluateProperties } from './evaluate';
import { movedPart } from './movedPart';
import { behaviourOf, blendValues, changedBy } from './moves';
import { trackValue } from './track';

/** The properties that moves of whole things change besides turns. */
const CARRIED = /^((?:nodes|cameras|lights)\/[^/]+)\/(?:position|target|roll|focalLength|focusDistance)$/;

/**
 * One property over the frames of a shot, without evaluating the rest of the document.
 * @returns its value at a frame from 1, undefined where the document has no such property
 */
export function sampleProperty(
  document: ProjectDocument,
  shot: Shot,
  path: string,
): (frame: number) => Value | undefined {
  const thing = CARRIED.exec(path)?.[1];
  if (thing !== undefined && Object.values(shot.moves).some((move) => changedBy(move).includes(thing))) {
    const part = movedPart(document, shot, [path]);
    return (frame) => readProperty(evaluateProperties(part, shot, frame), path);
  }
  const resting = readProperty(document, path);
  if (resting === undefined) return () => undefined;
  const kind = propertyKind(path, resting);
  const fits = (value: Value | undefined): value is Value => value !== undefined && propertyKind(path, value) === kind;
  const own = shot.changes[path];
  const begun = fits(own) ? own : resting;
  const keys = shot.tracks[path] ?? [];
  const driving = {
    ...shot,
    moves: Object.fromEntries(Object.entries(shot.moves).filter(([, { target }]) => target === path)),
  };
  const moved = Object.keys(driving.moves).length > 0;
  return (frame) => {
    let value = begun;
    const set = (next: Value) => {
      if (fits(next)) value = next;
    };
    if (keys.length > 0) set(trackValue(keys, frame, kind));
    for (const move of moved ? actingMoves(driving, frame) : []) {
      const behaviour = behaviourOf(move);
      if (behaviour.drives !== 'value') continue;
      const driven = behaviour.value(move, frame, kind === 'rotation');
      set(move.weight < 1 ? blendValues(value, driven, move.weight, kind === 'rotation') : driven);
    }
    return value;
  };
}
