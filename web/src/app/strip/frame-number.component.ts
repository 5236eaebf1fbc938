import { ChangeDetectionStrategy, Component, inject, input, type Signal } from '@angular/core';
import { Studio } from '../store/studio';
import { sayTime, type TimeWords } from './say-time';

/** The present frame. */
@Component({
  selector: 'zr-frame-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<b class="mono">{{ say(frame()()) }}</b>`,
})
export class FrameNumberComponent {
  private readonly studio = inject(Studio);
  /** As a signal: read outside, it would wake what holds this on every frame. */
  readonly frame = input.required<Signal<number>>();
  readonly words = input<TimeWords>('frames');

  say = (frame: number): string => sayTime(frame, this.studio.frameRate(), this.words());
}
