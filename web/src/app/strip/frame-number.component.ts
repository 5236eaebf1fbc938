import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Studio } from '../store/studio';

/** The number of the present frame. */
@Component({
  selector: 'zr-frame-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<b class="mono">{{ studio.frame() }}</b>`,
})
export class FrameNumberComponent {
  readonly studio = inject(Studio);
}
