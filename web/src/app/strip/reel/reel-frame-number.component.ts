import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { ReelFilm } from '../../store/reel/reel-film';
import { sayTime, type TimeWords } from '../say-time';

/** The present frame of the film. */
@Component({
  selector: 'zr-reel-frame-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<b class="mono">{{ say(reel.frame()) }}</b>`,
})
export class ReelFrameNumberComponent {
  readonly reel = inject(ReelFilm);
  readonly words = input<TimeWords>('frames');

  say = (frame: number): string => sayTime(frame, this.reel.film().rate, this.words());
}
