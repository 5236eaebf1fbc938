import { CdkTrapFocus } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Ask } from './ask';

/** Shows the present question. */
@Component({
  selector: 'zr-ask-dialog',
  imports: [CdkTrapFocus],
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
        (submit)="$event.preventDefault(); question.answer(field?.value ?? '')"
        (keydown.escape)="question.answer(null)"
        (keydown)="$event.stopPropagation()"
      >
        <h2>{{ question.title }}</h2>
        @if (question.text) {
          <p>{{ question.text }}</p>
        }
        <input
          #field
          class="control"
          aria-label="Name"
          maxlength="200"
          autocomplete="off"
          [hidden]="question.name === undefined"
          [value]="question.name ?? ''"
        />
        <div class="dialog-row">
          <button type="button" class="control" (click)="question.answer(null)">Leave it</button>
          <button class="control primary">{{ question.action }}</button>
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
    [hidden] {
      display: none !important;
    }
  `,
})
export class AskDialogComponent {
  readonly ask = inject(Ask);
}
