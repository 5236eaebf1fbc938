import type { ProjectDocument, Shot } from '../document';
import { changedBy, heededBy } from './moves';

/** The document with no more things than a shot moves or changes, and those that paths lead to: evaluating it costs no more than they do. */
export function movedPart(document: ProjectDocument, shot: Shot, paths: readonly string[] = []): ProjectDocument {
  const moves = Object.values(shot.moves);
  const touched = [
    ...paths,
    ...Object.keys(shot.changes),
    ...Object.keys(shot.tracks),
    ...moves.flatMap(changedBy),
    ...moves.flatMap(heededBy).flatMap((id) => chainOf(document, id)),
    // What follows another thing takes over its way in the space of what it hangs under itself.
    ...moves.flatMap((move) => (heededBy(move).length > 0 ? carriersOf(document, move.target) : [])),
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

/** Paths of a node and all that it hangs under. */
function chainOf(document: ProjectDocument, id: string): string[] {
  const chain: string[] = [];
  for (let up: string | null = id; up !== null; up = document.nodes[up]?.parent ?? null) chain.push(`nodes/${up}`);
  return chain;
}

function carriersOf(document: ProjectDocument, target: string): string[] {
  const [collection, id] = target.split('/') as ['nodes' | 'cameras' | 'lights', string];
  const parent = document[collection][id]?.parent ?? null;
  return parent === null ? [] : chainOf(document, parent);
}
