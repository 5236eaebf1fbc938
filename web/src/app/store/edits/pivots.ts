import { setPivotInWorld, worldTransforms } from '@zippy/core/scene';
import { inject, Injectable } from '@angular/core';
import type { Vector3 } from '@zippy/core/document';
import { centreOf, IDENTITY, isEmpty, type Bounds } from '@zippy/core/geometry';
import { PickingTask, type Picking } from '../picking';
import { SceneBounds } from '../scene-bounds';
import { Notices } from '../notices';
import { Studio } from '../studio';

/** Sets where selected nodes turn. What is picked in the picture counts as it stands on the present frame. */
@Injectable({ providedIn: 'root' })
export class Pivots {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  private readonly picking = inject(PickingTask);
  private readonly notices = inject(Notices);

  /** Each selected node about the middle of its box. */
  toCentre = (): Promise<void> => this.toOwnBox('Turn about the centre', centreOf);

  /** Each selected node about the middle of its underside. */
  toBase = (): Promise<void> =>
    this.toOwnBox('Turn about the base', (box) => {
      const [x, , z] = centreOf(box);
      return [x, box.low[1], z];
    });

  pickPoint(): void {
    this.ask('point', 'Click where it turns: corners, middles and round edges draw', ({ point }) =>
      this.set('Turn about a picked point', () => ({ point })),
    );
  }

  pickAxis(): void {
    this.ask('axis', 'Click a round face: shaft, hole, rim or cone', ({ axis }) => {
      if (!axis)
        return this.notices.tell('That face is not round, so it has no axis. Click a shaft, hole, rim or cone.');
      this.set('Turn about an axis', () => ({ point: axis.point, axis: axis.direction }));
    });
  }

  pickPart(): void {
    this.ask('part', 'Click the part about whose centre it turns', async ({ node }) => {
      const box = await this.boxOf(node);
      if (box) this.set("Turn about another part's centre", () => ({ point: centreOf(box) }));
    });
  }

  private ask(kind: Picking['kind'], say: string, done: Picking['done']): void {
    const now = this.picking.task();
    // The same button again takes the question back.
    this.picking.task.set(now?.say === say ? null : { kind, say, done });
  }

  private async toOwnBox(label: string, pointOf: (box: Bounds) => Vector3): Promise<void> {
    const boxes = new Map<string, Bounds | null>();
    for (const id of this.studio.selectedNodes()) boxes.set(id, await this.boxOf(id));
    this.set(label, (id) => {
      const box = boxes.get(id);
      return box ? { point: pointOf(box) } : null;
    });
  }

  /** The box of a node in the world; null where nothing of it is there, or cannot be loaded, which is told. */
  private async boxOf(id: string): Promise<Bounds | null> {
    try {
      const box = await this.bounds.ofNode(id);
      return isEmpty(box) ? null : box;
    } catch (error) {
      this.notices.tell(error);
      return null;
    }
  }

  private set(label: string, place: (id: string) => { point: Vector3; axis?: Vector3 } | null): void {
    const world = worldTransforms(this.studio.present(), this.studio.selectedNodes());
    this.studio.edit(label, (draft) => {
      for (const id of this.studio.selectedNodes()) {
        const found = place(id);
        if (found) setPivotInWorld(draft, id, world.get(id) ?? IDENTITY, found.point, found.axis);
      }
    });
  }
}
