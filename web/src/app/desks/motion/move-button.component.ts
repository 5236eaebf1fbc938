import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { MoveKind } from '@zippy/core/document';
import { MOVE_VIEWS, type MoveStart } from '../../kinds/moves';
import { Moves } from '../../store/edits/moves';

/** Puts a move on what is selected. */
@Component({
  selector: 'zr-move-button',
  imports: [MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      matButton="tonal"
      disabledInteractive
      [disabled]="!can()"
      [matTooltip]="can() ? start().does : needs()"
      (click)="moves.begin(kind(), start())"
    >
      <svg viewBox="0 0 34 16" aria-hidden="true"><path [attr.d]="start().drawing" /></svg>{{ start().title }}
    </button>
  `,
  styles: `
    button {
      width: 100%;
      padding: 0 6px;
      justify-content: flex-start;
    }
    svg {
      width: 24px;
      flex: none;
    }
    path {
      fill: none;
      stroke: var(--motion);
      stroke-width: 1.8;
      stroke-linecap: round;
      stroke-linejoin: round;
    }
    button[aria-disabled='true'] path {
      stroke: currentcolor;
    }
  `,
})
export class MoveButtonComponent {
  readonly moves = inject(Moves);
  readonly kind = input.required<MoveKind>();
  readonly start = input.required<MoveStart>();
  readonly can = computed(() => this.moves.targets(this.kind()).length > 0);
  readonly needs = computed(() => MOVE_VIEWS[this.kind()].needs);
}
