import { inject, Injectable } from '@angular/core';
import { newId, newLabel, type Finish, type Label, type Vector3 } from '@zippy/core/document';
import {
  cross,
  dot,
  invertTransform,
  normalize,
  scale,
  subtract,
  transformDirection,
  transformPoint,
  quaternionFromFrame,
  turnFromQuaternion,
  type Transform,
} from '@zippy/core/geometry';
import { worldTransforms } from '@zippy/core/scene';
import { Notices } from '../notices';
import { PickingTask, type PickedPlace } from '../picking';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';
import { finishIn } from './finish-shelf';

/** The part of the longest side of what bears it that a new label is wide. */
const SHARE = 0.5;

/** Edits of what is printed and stuck on parts. */
@Injectable({ providedIn: 'root' })
export class Labels {
  private readonly studio = inject(Studio);
  private readonly picking = inject(PickingTask);
  private readonly bounds = inject(SceneBounds);
  private readonly notices = inject(Notices);

  /** Asks where a picture shall be printed, and prints it there. @param aspect width of the picture by its height */
  print(picture: string, name: string, aspect: number): void {
    this.ask(`Click where ${name} shall be printed`, async (picked) => {
      const { node } = picked;
      const place = await this.placeOn(picked);
      if (!place) return;
      const id = newId();
      this.studio.edit(`Print ${name}`, (draft) => {
        const own = draft.nodes[node];
        if (!own) return;
        const order = Math.max(-1, ...Object.values(own.labels).map((label) => label.order)) + 1;
        const width = Number(place.width.toPrecision(2));
        own.labels[id] = newLabel(picture, {
          name,
          order,
          position: place.position,
          turn: place.turn,
          width,
          height: Number((width / aspect).toPrecision(3)),
          depth: Number((place.width / 2).toPrecision(2)),
          ...place.wrapped,
        });
      });
      this.studio.select('node', node);
    });
  }

  /** Asks for another place of a label on its part. */
  move(node: string, id: string): void {
    this.ask('Click where it shall be', async (picked) => {
      if (picked.node !== node)
        return this.notices.tell('A label stays on its part. Click on that part, or print it anew.');
      const place = await this.placeOn(picked);
      if (place)
        this.change(node, id, 'Move a label', { position: place.position, turn: place.turn, ...place.wrapped });
    });
  }

  change(node: string, id: string, title: string, over: Partial<Label>): void {
    this.studio.edit(title, (draft) => {
      const label = draft.nodes[node]?.labels[id];
      if (label) Object.assign(label, over);
    });
  }

  /** Makes a label of a finish: one of the project by its id, a new one from the shelf, or null for ink on what the part wears. */
  makeOf(node: string, id: string, finish: string | Partial<Finish> | null): void {
    this.studio.edit('Finish of a label', (draft) => {
      const label = draft.nodes[node]?.labels[id];
      if (label) label.finish = finish === null || typeof finish === 'string' ? finish : finishIn(draft, finish);
    });
  }

  takeOff(node: string, id: string, name: string): void {
    this.studio.edit(`Take ${name} off`, (draft) => {
      delete draft.nodes[node]?.labels[id];
      const gone = `nodes/${node}/labels/${id}/`;
      for (const { tracks, changes } of Object.values(draft.shots)) {
        for (const record of [tracks, changes])
          for (const path of Object.keys(record)) if (path.startsWith(gone)) delete record[path];
      }
    });
  }

  private ask(say: string, done: (picked: PickedPlace) => Promise<void> | void): void {
    this.picking.task.set({ kind: 'surface', say, done });
  }

  /** Where a label stands that faces out of the surface and reads upright, in the part's own space; on a shaft it is wrapped round. */
  private async placeOn({ node, point, normal, axis }: PickedPlace) {
    const world = worldTransforms(this.studio.present(), [node]).get(node);
    const inverse = world && invertTransform(world);
    if (!inverse) return null;
    const box = await this.bounds.ofNode(node);
    const size = Math.max(...subtract(box.high, box.low));
    const grow = Math.hypot(...transformDirection(inverse, normal));
    let out = normalize(transformDirection(inverse, normal));
    let up = uprightAcross(out, inverse);
    const round = axis?.kind === 'cylinder' ? axis : null;
    if (round) {
      const along = normalize(transformDirection(inverse, round.direction));
      up = dot(along, up) < 0 ? scale(along, -1) : along;
      out = normalize(subtract(out, scale(up, dot(out, up))));
    }
    return {
      position: transformPoint(inverse, point),
      turn: turnFromQuaternion(quaternionFromFrame(cross(up, out), up, out)),
      width: size * SHARE * grow,
      wrapped: {
        wrap: round ? ('round' as const) : ('flat' as const),
        ...(round ? { radius: round.radius * grow } : {}),
      },
    };
  }
}

/** The way across a direction that is as upright in the world as can be; of what lies flat, away from the front. */
function uprightAcross(out: Vector3, toPart: Transform): Vector3 {
  const across = (way: Vector3) => subtract(way, scale(out, dot(way, out)));
  const up = across(normalize(transformDirection(toPart, [0, 1, 0])));
  return Math.hypot(...up) > 0.05
    ? normalize(up)
    : normalize(across(normalize(transformDirection(toPart, [0, 0, -1]))));
}
