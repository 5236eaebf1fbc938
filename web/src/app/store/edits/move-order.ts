import { inject, Injectable } from '@angular/core';
import { subtree, type Move, type Vector3 } from '@zippy/core/document';
import { add, distance, scale } from '@zippy/core/geometry';
import { changedBy } from '@zippy/core/motion';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** By what the moves of several things begin one after the other. */
export type Order = 'picked' | 'x' | 'y' | 'z' | 'middle' | 'random';

/** Moves in the order of the places of what they are on. */
@Injectable({ providedIn: 'root' })
export class MoveOrder {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  ranked(moves: readonly Move[], order: Order): Move[] {
    if (order === 'picked') return [...moves];
    if (order === 'random') {
      const shuffled = [...moves];
      for (let k = shuffled.length - 1; k > 0; k--) {
        const other = Math.floor(Math.random() * (k + 1));
        [shuffled[k], shuffled[other]] = [shuffled[other]!, shuffled[k]!];
      }
      return shuffled;
    }
    const placed = moves.map((move) => ({ move, place: this.placeOf(move) }));
    const middle = scale(
      placed.reduce<Vector3>((sum, { place }) => add(sum, place), [0, 0, 0]),
      1 / placed.length,
    );
    const rank = ({ place }: { place: Vector3 }) =>
      order === 'middle' ? distance(place, middle) : place['xyz'.indexOf(order)]!;
    return placed.sort((a, b) => rank(a) - rank(b)).map(({ move }) => move);
  }

  private placeOf(move: Move): Vector3 {
    const [collection, id = ''] = changedBy(move)[0]?.split('/') ?? [];
    const document = this.studio.document();
    if (collection === 'nodes' && document.nodes[id]) return this.bounds.around(subtree(document, id)).center;
    const aimed = { ...document.lights, ...document.cameras }[id];
    return aimed ? [...aimed.position] : [0, 0, 0];
  }
}
