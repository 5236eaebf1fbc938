import { inject, Injectable } from '@angular/core';
import type { Move, Vector3 } from '@zippy/core/document';
import {
  invertTransform,
  normalize,
  transformDirection,
  transformPoint,
  type Transform,
  type Vector,
} from '@zippy/core/geometry';
import { followedPoint, worldTransforms } from '@zippy/core/scene';
import { Notices } from '../notices';
import { PickingTask, type Picking } from '../picking';
import { Studio } from '../studio';
import { Moves } from './moves';

const three = ([x, y, z]: Vector): Vector3 => [x, y, z];

/** What moves go by, picked in the picture. It counts as it stands on the present frame. */
@Injectable({ providedIn: 'root' })
export class MovePicks {
  private readonly studio = inject(Studio);
  private readonly moves = inject(Moves);
  private readonly picking = inject(PickingTask);
  private readonly notices = inject(Notices);

  /** What a camera is sharp or aimed at, at one end of a pull. */
  pull(id: string, end: 'from' | 'to'): void {
    const what = this.studio.shot()?.moves[id]?.kind === 'aimPull' ? 'what it looks at' : 'what is sharp';
    this.ask('surface', `Click ${what} ${end === 'from' ? 'first' : 'then'}`, ({ node, point }) => {
      const world = worldTransforms(this.studio.present(), [node]).get(node);
      const followed = world && followedPoint(node, world, point);
      if (!followed) return this.notices.tell('That part has no size on this frame, so nothing on it can be followed.');
      this.moves.change(what.replace('what', 'What'), id, (move) => {
        if (move.kind === 'focusPull' || move.kind === 'aimPull') move[end] = followed;
      });
    });
  }

  leader(id: string): void {
    this.ask('part', 'Click what it follows', ({ node }) => {
      const move = this.studio.shot()?.moves[id];
      if (move?.target === `nodes/${node}`) return this.notices.tell('It cannot follow itself. Click another part.');
      this.moves.change('What it follows', id, (draft) => void (draft.kind === 'follow' && (draft.leader = node)));
    });
  }

  /** Axis and centre of a turn: those of a round face. */
  axis(id: string): void {
    this.ask('axis', 'Click a round face: shaft, hole, rim or cone', ({ axis }) => {
      if (!axis)
        return this.notices.tell('That face is not round, so it has no axis. Click a shaft, hole, rim or cone.');
      this.about(id, 'Turn about an axis', axis.point, axis.direction);
    });
  }

  center(id: string): void {
    this.ask('point', 'Click what it turns about: corners, middles and round edges draw', ({ point }) =>
      this.about(id, 'Turn about a point', point),
    );
  }

  private about(id: string, label: string, point: Vector, direction?: Vector): void {
    const inverse = this.intoParent(this.studio.shot()?.moves[id]);
    this.moves.change(label, id, (move) => {
      if (!('center' in move) || !('axis' in move)) return;
      move.center = three(inverse ? transformPoint(inverse, point) : point);
      if (direction) move.axis = three(normalize(inverse ? transformDirection(inverse, direction) : direction));
    });
  }

  /** From the world to the space of what the target of a move hangs under; null where that is the world. */
  private intoParent(move: Move | undefined): Transform | null {
    const parent = this.studio.document().nodes[move?.target.split('/')[1] ?? '']?.parent ?? null;
    const world = parent === null ? undefined : worldTransforms(this.studio.present(), [parent]).get(parent);
    return world ? invertTransform(world) : null;
  }

  private ask(kind: Picking['kind'], say: string, done: Picking['done']): void {
    // The same button again takes the question back.
    this.picking.task.set(this.picking.task()?.say === say ? null : { kind, say, done });
  }
}
