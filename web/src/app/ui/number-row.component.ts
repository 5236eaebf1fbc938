import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { NumberFieldComponent } from './number-field.component';

/** A number that is no property of the document, with its name beside it. */
@Component({
  selector: 'zr-number-row',
  imports: [NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="quiet">{{ name() }}</span>
    <zr-number
      exact
      [label]="label() || name()"
      [unit]="unit()"
      [value]="value()"
      [min]="min()"
      [max]="max()"
      (changed)="changed.emit($event.value)"
    />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 92px 1fr;
      align-items: center;
      min-height: 34px;
    }
  `,
})
export class NumberRowComponent {
  readonly name = input.required<string>();
  /** For assistive technology, where the name alone says too little. */
  readonly label = input('');
  readonly unit = input('');
  readonly value = input.required<number>();
  readonly min = input.required<number>();
  readonly max = input.required<number>();
  readonly changed = output<number>();
}
