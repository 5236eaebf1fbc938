import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatInputModule } from '@angular/material/input';

/** A few words. */
@Component({
  selector: 'zr-text',
  imports: [MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #field
      matInput
      class="zr-field"
      autocomplete="off"
      maxlength="200"
      [type]="search() ? 'search' : 'text'"
      [attr.aria-label]="label()"
      [placeholder]="placeholder()"
      [disabled]="disabled()"
      (input)="typed.emit(field.value)"
      (change)="changed.emit(field.value)"
      (keydown)="key($event)"
      (blur)="leave()"
    />
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    input {
      width: 100%;
    }
  `,
})
export class TextFieldComponent {
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly label = input.required<string>();
  readonly value = input('');
  readonly placeholder = input('');
  readonly search = input(false, { transform: booleanAttribute });
  readonly disabled = input(false);
  /** With every letter. */
  readonly typed = output<string>();
  /** When it is done. */
  readonly changed = output<string>();
  /** The field is left, changed or not. */
  readonly left = output<string>();

  constructor() {
    effect(() => (this.field().nativeElement.value = this.value()));
  }

  focus(): void {
    this.field().nativeElement.focus();
    this.field().nativeElement.select();
  }

  key(event: KeyboardEvent): void {
    if (this.search()) return;
    const { nativeElement } = this.field();
    if (event.key === 'Escape') nativeElement.value = this.value();
    // Enter sends a form as it is.
    if (event.key === 'Escape' || (event.key === 'Enter' && !nativeElement.form)) nativeElement.blur();
  }

  leave(): void {
    const { value } = this.field().nativeElement;
    this.left.emit(value);
    // What was typed may have been refused.
    if (!this.search()) this.field().nativeElement.value = this.value();
  }
}
