import { propertyKind, readProperty, type ProjectDocument, type Shot, type Value } from '../document';
import { actingMoves, evaluateProperties } from './evaluate';
import { behaviourOf } from './moves';
import { trackValue } from './track';

/** The property that a move of whole things changes besides turns. */
const CARRIED = /^((?:nodes|cameras|lights)\/[^/]+)\/(?:position|target)$/;

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
  if (thing !== undefined && Object.values(shot.moves).some(({ target }) => target === thing)) {
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
      if (behaviour.drives === 'value') set(behaviour.value(move, frame, kind === 'rotation'));
    }
    return value;
  };
}

/** The document with no more things than a shot moves or changes, and those that paths lead to: evaluating it costs no more than they do. */
export function movedPart(document: ProjectDocument, shot: Shot, paths: readonly string[] = []): ProjectDocument {
  const touched = [
    ...paths,
    ...Object.keys(shot.changes),
    ...Object.keys(shot.tracks),
    ...Object.values(shot.moves).map(({ target }) => target),
  ].map((path) => path.split('/') as [string, string]);
  const only = <T>(collection: string, record: Record<string, T>): Record<string, T> =>
    Object.fromEntries(touched.flatMap(([of, id]) => (of === collection && record[id] ? [[id, record[id]]] : [])));
  return {
    ...document,
    nodes: only('nodes', document.nodes),
    finishes: only('finishes', document.finishes),
    lights: only('lights', document.lights),
    cameras: only('cameras', document.cameras),
  };
}
