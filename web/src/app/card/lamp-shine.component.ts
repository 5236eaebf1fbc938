import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { Shines } from '../store/edits/shines';

/** Places a lamp by what it shall do on the product. */
@Component({
  selector: 'zr-lamp-shine',
  imports: [MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="group" aria-label="Placed by pointing">
      <button
        matButton="tonal"
        matTooltip="Drag over the product: the lamp goes where its reflection lies under the pointer"
        (click)="shines.begin(light(), 'mirrored')"
      >
        Shine here
      </button>
      <button
        matButton="tonal"
        matTooltip="Drag over the product: the lamp goes where it lights that place squarely"
        (click)="shines.begin(light(), 'square')"
      >
        Light here
      </button>
      <button
        matButton="tonal"
        matTooltip="Drag over the ground: the lamp goes where the shadow of the product falls there"
        (click)="shines.begin(light(), 'shadow')"
      >
        Shadow here
      </button>
      <button
        matButton="tonal"
        matTooltip="Drag along the product: the highlight runs that way, from the playhead to the end of the shot"
        (click)="shines.sweep(light())"
      >
        Sweep along
      </button>
      <button
        matButton="tonal"
        matTooltip="Drag over the parts: it is aimed at that place, and stays so wherever the part goes"
        (click)="shines.aim(light())"
      >
        Aim here
      </button>
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding-block: 4px;
    }
  `,
})
export class LampShineComponent {
  readonly light = input.required<string>();
  readonly shines = inject(Shines);
}
