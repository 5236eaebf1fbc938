import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { ScaleLinear } from 'd3';
import { ReelFilm } from '../../store/reel/reel-film';

/** The line where the present frame of the film is: all of its strip that moves while it plays. */
@Component({
  selector: 'zr-reel-playhead',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<div [hidden]="left() < from()" [style.left.px]="left()"></div>',
  styles: `
    div {
      position: absolute;
      z-index: 3;
      top: 0;
      bottom: 0;
      width: 2px;
      background: var(--select);
      pointer-events: none;
    }
  `,
})
export class ReelPlayheadComponent {
  private readonly reel = inject(ReelFilm);
  readonly from = input.required<number>();
  readonly x = input.required<ScaleLinear<number, number>>();
  readonly left = computed(() => this.from() + this.x()(this.reel.frame()));
}
