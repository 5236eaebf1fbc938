import { booleanAttribute, ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule, type MatButtonAppearance } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';

/** Asks for files of this machine. */
@Component({
  selector: 'zr-file-button',
  imports: [MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button [matButton]="look()" [disabled]="disabled()" [matTooltip]="hint()" (click)="file.click()">
      <ng-content />
    </button>
    <input
      #file
      type="file"
      hidden
      [attr.aria-label]="label()"
      [multiple]="multiple()"
      [accept]="accept()"
      (change)="take(file)"
    />
  `,
  styles: `
    :host {
      display: inline-flex;
    }
  `,
})
export class FileButtonComponent {
  readonly accept = input.required<string>();
  /** What the files are for. */
  readonly label = input.required<string>();
  readonly multiple = input(false, { transform: booleanAttribute });
  readonly disabled = input(false);
  readonly hint = input('');
  readonly look = input<MatButtonAppearance>('tonal');
  readonly files = output<File[]>();

  take(field: HTMLInputElement): void {
    const files = [...(field.files ?? [])];
    // The same file can be chosen again.
    field.value = '';
    if (files.length > 0) this.files.emit(files);
  }
}
