import { TextFieldComponent } from '../text-field.component';
import { MatButtonModule } from '@angular/material/button';
import { CdkTrapFocus } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject, linkedSignal } from '@angular/core';
import { Ask } from './ask';

/** Shows the present question. */
@Component({
  selector: 'zr-ask-dialog',
  imports: [CdkTrapFocus, MatButtonModule, TextFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ask.question(); as question) {
      <div class="dialog-back" (click)="question.answer(null)"></div>
      <form
        class="dialog"
        role="alertdialog"
        aria-modal="true"
        [attr.aria-label]="question.title"
        cdkTrapFocus
        [cdkTrapFocusAutoCapture]="true"
        (submit)="$event.preventDefault(); question.answer(typed() ?? question.name ?? '')"
        (keydown.escape)="question.answer(null)"
        (keydown)="$event.stopPropagation()"
      >
        <h2>{{ question.title }}</h2>
        @if (question.text) {
          <p>{{ question.text }}</p>
        }
        @if (question.name !== undefined) {
          <zr-text label="Name" [value]="question.name" (typed)="typed.set($event)" />
        }
        <div class="dialog-row">
          <button matButton="tonal" type="button" (click)="question.answer(null)">Leave it</button>
          <button matButton="filled">{{ question.action }}</button>
        </div>
      </form>
    }
  `,
  styles: `
    .dialog {
      width: 400px;
      display: grid;
      gap: 12px;
    }
    p {
      margin: 0;
    }
  `,
})
export class AskDialogComponent {
  readonly ask = inject(Ask);
  /** What was typed; null where the name that is offered stands. */
  readonly typed = linkedSignal<unknown, string | null>({ source: this.ask.question, computation: () => null });
}
