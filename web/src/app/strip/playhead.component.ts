import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { ScaleLinear } from 'd3';
import { Studio } from '../store/studio';

/** The line over all lanes where the present frame is: all of the lanes that moves while a shot plays. */
@Component({
  selector: 'zr-playhead',
  changeDetection: ChangeDetectionStrategy.OnPush,
  // Of its own template: what a host reads wakes the one that holds it.
  template: '<div [hidden]="left() < from()" [style.left.px]="left()"></div>',
  styles: `
    div {
      position: absolute;
      z-index: 1;
      top: 0;
      bottom: 0;
      min-height: 100%;
      width: 2px;
      background: var(--select);
      pointer-events: none;
    }
  `,
})
export class PlayheadComponent {
  readonly studio = inject(Studio);
  /** Pixels at which the lanes begin, and of a frame from there. */
  readonly from = input.required<number>();
  readonly x = input.required<ScaleLinear<number, number>>();
  /** Where it is; before the lanes begin it is not seen. */
  readonly left = computed(() => this.from() + this.x()(this.studio.frame()));
}
