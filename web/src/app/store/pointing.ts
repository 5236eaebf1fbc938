import { Injectable, signal } from '@angular/core';
import type { SeenPlace } from '@zippy/core/optics';

/** What the pointer is on in the picture. */
export interface PointedPlace extends SeenPlace {
  node: string;
  /** Name of the first part between two places; null where nothing is. */
  between: (from: SeenPlace['point'], to: SeenPlace['point']) => string | null;
}

/** Something that follows the pointer while it is dragged over the parts. */
export interface Pointing {
  say: string;
  over: (place: PointedPlace) => void;
  /** The pointer was let go; where it was nowhere on a part, without a place. */
  done: (place: PointedPlace | null) => void;
}

/** The one thing that follows the pointer over the picture. */
@Injectable({ providedIn: 'root' })
export class PointingTask {
  readonly task = signal<Pointing | null>(null);
}
