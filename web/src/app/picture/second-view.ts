import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { Studio } from '../store/studio';

/** Where the shot's camera is seen while one looks about freely. */
const PLACES = ['nowhere', 'corner', 'beside'] as const;
export type SecondPlace = (typeof PLACES)[number];

/** Pixels from the left and the bottom of the picture. */
export interface SecondBox {
  left: number;
  bottom: number;
  width: number;
  height: number;
}

const KEPT = 'zippy-inset';
/** Pixels of the picture's width below which there is room for one view only. */
const LEAST_WIDTH = 300;
const MARGIN = 10;

/** The shot's camera seen in a corner of the free view or beside it, and which of the two is traced; kept by the browser. */
@Injectable({ providedIn: 'root' })
export class SecondView {
  private readonly studio = inject(Studio);
  readonly size = signal({ width: 1, height: 1 });
  readonly aspect = signal(1);
  readonly place = signal(kept());
  /** The traced picture is that of the shot's camera, while the free view stays a sketch. */
  readonly tracesCamera = signal(true);
  readonly box = computed((): SecondBox | null => {
    const { width, height } = this.size();
    const [place, aspect] = [this.place(), this.aspect()];
    const missing = this.studio.throughCamera() || !this.studio.frameState().camera;
    if (place === 'nowhere' || missing || width < LEAST_WIDTH) return null;
    if (place === 'corner') {
      const wide = Math.round(Math.min(width * 0.32, height * 0.36 * aspect));
      return { left: MARGIN, bottom: MARGIN, width: wide, height: Math.round(wide / aspect) };
    }
    const half = Math.floor(width / 2);
    const wide = Math.round(Math.min(half, height * aspect));
    const high = Math.round(wide / aspect);
    return {
      left: width - half + Math.round((half - wide) / 2),
      bottom: Math.round((height - high) / 2),
      width: wide,
      height: high,
    };
  });
  readonly beside = computed(() => this.place() === 'beside' && this.box() !== null);
  /** Of the picture's width, that the free view has. */
  readonly share = computed(() => (this.beside() ? 0.5 : 1));

  constructor() {
    effect(() => localStorage.setItem(KEPT, this.place()));
  }

  next(): void {
    this.place.update((place) => PLACES[(PLACES.indexOf(place) + 1) % PLACES.length]!);
  }
}

function kept(): SecondPlace {
  const place = localStorage.getItem(KEPT);
  return PLACES.find((each) => each === place) ?? 'nowhere';
}
