import { TextFieldComponent } from '../text-field.component';
import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, inject, linkedSignal } from '@angular/core';
import { DialogComponent } from '../dialog.component';
import { Ask } from './ask';

/** Shows the present question. */
@Component({
  selector: 'zr-ask-dialog',
  imports: [DialogComponent, MatButtonModule, TextFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ask.question(); as question) {
      <zr-dialog kind="alertdialog" [label]="question.title" [width]="400" (leave)="question.answer(null)">
        <form id="question" (submit)="$event.preventDefault(); question.answer(typed() ?? question.name ?? '')">
          <h2>{{ question.title }}</h2>
          @if (question.text) {
            <p>{{ question.text }}</p>
          }
          @if (question.name !== undefined) {
            <zr-text label="Name" [value]="question.name" (typed)="typed.set($event)" />
          }
        </form>
        <button answers matButton="tonal" type="button" (click)="question.answer(null)">Leave it</button>
        <button answers matButton="filled" form="question">{{ question.action }}</button>
      </zr-dialog>
    }
  `,
  styles: `
    form {
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
