import { Injectable, signal } from '@angular/core';
import type { Vector3 } from '@zippy/core/document';
import type { FittedAxis } from '@zippy/core/geometry';

/** What was clicked in the picture, in the world. */
export interface PickedPlace {
  node: string;
  /** Drawn to corners, middles and centres of round edges where these are near. */
  point: Vector3;
  /** Out of the surface, of unit length. */
  normal: Vector3;
  /** Of the round face that was clicked; null where it is none. */
  axis: FittedAxis | null;
}

/** Something that waits for a click in the picture. */
export interface Picking {
  /** What is asked for: a place that corners and edges draw to them, just where it is clicked, a round face, or a part. */
  kind: 'point' | 'surface' | 'axis' | 'part';
  say: string;
  done: (place: PickedPlace) => void | Promise<void>;
}

/** The one thing that waits for a click in the picture. */
@Injectable({ providedIn: 'root' })
export class PickingTask {
  readonly task = signal<Picking | null>(null);
}
