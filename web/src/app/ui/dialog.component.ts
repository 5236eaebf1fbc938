import { CdkTrapFocus } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/**
 * A dialog over the page. Focus begins at what bears `cdkFocusInitial`, stays in the dialog and goes back where it was; keys pressed in it
 * are no shortcuts of the page. Its buttons are put in a row at its end with `answers`.
 */
@Component({
  selector: 'zr-dialog',
  imports: [CdkTrapFocus],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="dialog-back" (click)="leave.emit()"></div>
    <div
      class="dialog"
      aria-modal="true"
      [attr.role]="kind()"
      [attr.aria-label]="label()"
      [style.width.px]="width()"
      [style.top]="top()"
      [style.translate]="top() === '50%' ? '-50% -50%' : '-50%'"
      [class.narrow]="top() !== '50%'"
      cdkTrapFocus
      [cdkTrapFocusAutoCapture]="true"
      (keydown.escape)="leave.emit()"
      (keydown)="$event.stopPropagation()"
    >
      <ng-content />
      <div class="answers"><ng-content select="[answers]" /></div>
    </div>
  `,
  styles: `
    .dialog-back {
      position: fixed;
      inset: 0;
      z-index: 20;
      background: var(--shade);
    }
    .dialog {
      position: fixed;
      z-index: 21;
      left: 50%;
      display: flex;
      flex-direction: column;
      gap: 12px;
      max-width: calc(100vw - 32px);
      max-height: calc(100vh - 48px);
      padding: 20px;
      overflow: auto;
      border-radius: 10px;
      background: var(--panel);
      border: 1px solid var(--line);
    }
    .dialog.narrow {
      gap: 6px;
      padding: 8px;
    }
    .answers {
      display: flex;
      justify-content: end;
      gap: 8px;
    }
    .answers:empty {
      display: none;
    }
  `,
})
export class DialogComponent {
  readonly label = input.required<string>();
  /** One that asks is read out at once. */
  readonly kind = input<'dialog' | 'alertdialog'>('dialog');
  readonly width = input(440);
  /** Where it begins; in the middle where nothing else is said. */
  readonly top = input('50%');
  /** Escape, or a press beside it. */
  readonly leave = output<void>();
}
