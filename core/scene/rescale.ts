import type { ProjectDocument, Vector3 } from '../document';
import { carryPlaces, growMotion } from './carriedMotion';

/**
 * Makes a node with all below it larger or smaller about its turning point, and keeps its lowest point where it is: for a model that
 * turns out to be in another unit. Its keys and travels come along.
 * @param low world height of its lowest point now, millimetres; it must hang under nothing
 */
export function rescaleNode(draft: ProjectDocument, id: string, factor: number, low: number): void {
  const node = draft.nodes[id];
  if (!node) return;
  const grown = (scale: readonly number[]) => scale.map((v) => v * factor) as Vector3;
  const middle = node.position[1] + node.pivot[1];
  const lift = low - (middle + (low - middle) * factor);
  node.scale = grown(node.scale);
  node.position = [node.position[0], node.position[1] + lift, node.position[2]];
  carryPlaces(draft, id, [0, lift, 0]);
  const path = `nodes/${id}/scale`;
  for (const shot of Object.values(draft.shots)) {
    const own = shot.changes[path];
    if (Array.isArray(own)) shot.changes[path] = grown(own);
    for (const key of shot.tracks[path] ?? []) if (Array.isArray(key.value)) key.value = grown(key.value);
  }
  growMotion(draft, id, factor);
}
