import { inject, Injectable } from '@angular/core';
import type { Key, Light, Vector3 } from '@zippy/core/document';
import { length, subtract } from '@zippy/core/geometry';
import { shineOn, spreadAlong, type Shine } from '@zippy/core/optics';
import { followedPoint, placedAimed, unplaceAimed, worldTransforms } from '@zippy/core/scene';
import { newGesture } from '../../ui/gesture';
import { Notices } from '../notices';
import { PointingTask, type PointedPlace } from '../pointing';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** What is said while the pointer is awaited. */
const SAYS: Record<Shine, string> = {
  mirrored: 'Drag over the product: the highlight follows',
  square: 'Drag over the product: it is lit squarely there',
  shadow: 'Drag over where the shadow of the product shall fall',
};
const DONE: Record<Shine, string> = { mirrored: 'Shine here', square: 'Light here', shadow: 'Shadow here' };

/** Frames that a sweep takes at least. */
const LEAST_SWEEP = 12;

/** Lamps that are placed by pointing at where they shall shine. */
@Injectable({ providedIn: 'root' })
export class Shines {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  private readonly pointing = inject(PointingTask);
  private readonly notices = inject(Notices);

  /** Has the pointer place a lamp, which keeps its size and its distance. */
  begin(light: string, how: Shine): void {
    const lamp = placedAimed(this.studio.present()).lights[light];
    if (!lamp) return;
    const distance = Math.max(1, length(subtract(lamp.position, lamp.target)));
    const gesture = newGesture();
    const place = (seen: PointedPlace): Vector3 => {
      const { center } = this.bounds.product();
      const position = shineOn(how, seen, distance, center) as Vector3;
      this.put(lamp, position, seen.point as Vector3, DONE[how], gesture);
      return position;
    };
    this.pointing.task.set({
      say: SAYS[how],
      over: (seen) => void place(seen),
      done: (seen) => {
        if (!seen) return this.notices.say('No part was there, so the lamp stays where it is. Drag over a part.');
        const position = place(seen);
        const told = how === 'shadow' ? null : this.hindrance(lamp, position, seen);
        if (told) this.notices.tell(told);
      },
    });
  }

  /**
   * Has the pointer lead the highlight of a lamp over the product: it runs the same way, at even speed, from the playhead to the end of
   * the shot, or over the whole shot where little of it is left.
   */
  sweep(light: string): void {
    const [lamp, shot] = [placedAimed(this.studio.present()).lights[light], this.studio.shot()];
    const resting = this.studio.document().lights[light];
    if (!lamp || !resting) return;
    if (!shot) return this.notices.tell('There is no shot in which it could move. Add one on the time strip first.');
    const distance = Math.max(1, length(subtract(lamp.position, lamp.target)));
    const [gesture, title] = [newGesture(), 'Highlight sweep'];
    const way: { position: Vector3; target: Vector3 }[] = [];
    const pass = (seen: PointedPlace): void => {
      const position = shineOn('mirrored', seen, distance, this.bounds.product().center) as Vector3;
      way.push({ position, target: seen.point as Vector3 });
      this.put(lamp, position, seen.point as Vector3, title, gesture);
    };
    this.pointing.task.set({
      say: 'Drag along the product: the highlight runs that way',
      over: pass,
      done: (seen) => {
        if (seen) pass(seen);
        const playhead = Math.round(this.studio.frame());
        const first = shot.length - playhead < LEAST_SWEEP ? 1 : playhead;
        const keys = spreadAlong(way.map(({ target }) => target), first, shot.length); // prettier-ignore
        if (keys.length < 2) {
          this.studio.edit(title, (draft) => void (draft.lights[light] = resting), gesture);
          return this.notices.say(
            'To sweep, press on the product where the highlight begins and drag to where it ends.',
          );
        }
        const places = keys.map(({ at, frame }) => ({ frame, ...this.inCarrierOf({ ...lamp, ...way[at]! }) }));
        this.studio.edit(
          title,
          (draft) => {
            // Beyond the sweep the lamp stands where it stood.
            draft.lights[light] = { ...resting, aimOn: null, track: null };
            const { tracks } = draft.shots[shot.id]!;
            for (const part of ['position', 'target'] as const) {
              const path = `lights/${light}/${part}`;
              const outside = (tracks[path] ?? []).filter(({ frame }) => frame < first || frame > shot.length);
              const fresh = places.map((place): Key => ({ frame: place.frame, value: place[part], pace: 'linear' }));
              tracks[path] = [...outside, ...fresh].sort((a, b) => a.frame - b.frame);
            }
          },
          gesture,
        );
      },
    });
  }

  /** Has the pointer aim a lamp at a place of a part, at which it stays aimed; on the floor, it is aimed there once. */
  aim(light: string): void {
    if (!this.studio.document().lights[light]) return;
    const gesture = newGesture();
    const over = ({ node, point }: PointedPlace): void => {
      const transform = worldTransforms(this.studio.present(), node === '' ? [] : [node]).get(node);
      const lamp = placedAimed(this.studio.present()).lights[light]!;
      const { target } = this.inCarrierOf({ ...lamp, target: point as Vector3 });
      const aimOn = transform ? followedPoint(node, transform, point as Vector3) : null;
      this.studio.edit(
        'Aim here',
        (draft) => {
          draft.lights[light]!.aimOn = aimOn;
          if (!aimOn) draft.lights[light]!.target = target;
        },
        gesture,
      );
    };
    this.pointing.task.set({
      say: 'Drag over the parts: the lamp is aimed there, and stays so',
      over,
      done: (seen) => {
        if (seen) over(seen);
        else this.notices.say('Nothing was there, so the lamp is aimed as before. Drag over a part.');
      },
    });
  }

  /** Placed by pointing, a lamp stands there, and is aimed at that place alone. */
  private free(light: string, gesture: string): void {
    const { aimOn, track } = this.studio.document().lights[light]!;
    if (!aimOn && !track) return;
    this.studio.edit(
      'Placed by pointing',
      (draft) => void Object.assign(draft.lights[light]!, { aimOn: null, track: null }),
      gesture,
    );
  }

  /** Puts a lamp where it stands in the world, whatever it hangs on. */
  private put(lamp: Light, position: Vector3, target: Vector3, title: string, gesture: string): void {
    const own = this.inCarrierOf({ ...lamp, position, target });
    const at = `lights/${lamp.id}`;
    this.free(lamp.id, gesture);
    this.studio.setProperties(title, { [`${at}/position`]: own.position, [`${at}/target`]: own.target }, gesture);
  }

  /** A lamp that stands in the world as it stands in the space of what it hangs on. */
  private inCarrierOf(lamp: Light): Light {
    const { parent } = this.studio.document().lights[lamp.id]!;
    const carrier = parent === null ? null : worldTransforms(this.studio.present(), [parent]).get(parent)!;
    return carrier ? unplaceAimed(lamp, carrier) : lamp;
  }

  /** A sentence on what keeps a lamp from shining where it was asked to; null where nothing does. */
  private hindrance({ name }: Light, position: Vector3, { point, between }: PointedPlace): string | null {
    const other = between(point, position);
    if (other !== null) return `"${other}" stands between "${name}" and that place, so that it does not shine there.`;
    const { floor } = this.studio.present().set;
    return floor.kind !== 'none' && position[1] < 0
      ? `To shine there "${name}" had to go below the floor, which keeps its light away. Choose another place, or another view.`
      : null;
  }
}
