import { CdkTextareaAutosize } from '@angular/cdk/text-field';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatInputModule } from '@angular/material/input';

/** Words on one line or several; the field grows with them. */
@Component({
  selector: 'zr-words',
  imports: [CdkTextareaAutosize, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <textarea
      #field
      matInput
      class="zr-field"
      cdkTextareaAutosize
      cdkAutosizeMinRows="1"
      cdkAutosizeMaxRows="6"
      maxlength="1000"
      [attr.aria-label]="label()"
      [placeholder]="label()"
      [value]="value()"
      (input)="typed.emit(field.value)"
      (keydown.escape)="field.blur()"
    ></textarea>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    textarea {
      width: 100%;
      resize: none;
    }
  `,
})
export class WordsFieldComponent {
  readonly label = input.required<string>();
  readonly value = input('');
  /** With every letter. */
  readonly typed = output<string>();
}
