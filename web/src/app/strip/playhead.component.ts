import { ChangeDetectionStrategy, Component, computed, input, type Signal } from '@angular/core';
import type { ScaleLinear } from 'd3';

/** The line over all lanes where the present frame is: all of the lanes that moves while it plays. */
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
  /** As a signal: read outside, it would wake what holds this on every frame. */
  readonly frame = input.required<Signal<number>>();
  /** Pixels at which the lanes begin, and of a frame from there. */
  readonly from = input.required<number>();
  readonly x = input.required<ScaleLinear<number, number>>();
  /** Where it is; before the lanes begin it is not seen. */
  readonly left = computed(() => this.from() + this.x()(this.frame()()));
}
