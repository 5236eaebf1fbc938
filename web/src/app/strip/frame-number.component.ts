import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Studio } from '../store/studio';
import { sayTime, type TimeWords } from './say-time';

/** The present frame. */
@Component({
  selector: 'zr-frame-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<b class="mono">{{ say(studio.frame()) }}</b>`,
})
export class FrameNumberComponent {
  readonly studio = inject(Studio);
  readonly words = input<TimeWords>('frames');

  say = (frame: number): string => sayTime(frame, this.studio.frameRate(), this.words());
}
