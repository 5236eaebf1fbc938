import { computed, Injectable, signal } from '@angular/core';
import { FITTED, zoomedAbout, type Zoom } from './layer-style';

/** The picture drawn nearer, to the pixel. */
@Injectable({ providedIn: 'root' })
export class Loupe {
  readonly zoom = signal<Zoom>(FITTED);
  readonly fitted = computed(() => this.zoom() === FITTED);

  fit(): void {
    this.zoom.set(FITTED);
  }

  about(by: number, x: number, y: number): void {
    this.zoom.update((zoom) => zoomedAbout(zoom, by, x, y));
  }

  shift(x: number, y: number): void {
    this.zoom.update((zoom) => ({ ...zoom, x: zoom.x + x, y: zoom.y + y }));
  }
}
