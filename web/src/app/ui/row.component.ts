import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** A thing in a list of a desk: pressed, it is selected. What stands beside it, such as switches, is put in with `beside`. */
@Component({
  selector: 'zr-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.picked]': 'picked()', '[class.off]': 'off()' },
  template: `
    <button
      type="button"
      [attr.aria-pressed]="picked()"
      [attr.aria-label]="label() || null"
      (click)="press.emit($event)"
    >
      <ng-content />
    </button>
    <ng-content select="[beside]" />
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 2px;
      min-height: 32px;
      padding-inline-end: 2px;
      border-radius: 6px;
    }
    :host:hover {
      background: var(--raised);
    }
    :host(.picked) {
      background: color-mix(in srgb, var(--select) 24%, var(--panel));
      --quiet: var(--text);
    }
    button {
      display: flex;
      flex: 1;
      align-items: center;
      gap: 6px;
      min-width: 0;
      min-height: 32px;
      padding: 2px 0 2px 8px;
      border: 0;
      border-radius: 6px;
      background: none;
      color: var(--text);
      font: inherit;
      text-align: start;
      cursor: pointer;
    }
    :host(.off) button {
      color: var(--quiet);
      font-style: italic;
    }
  `,
})
export class RowComponent {
  readonly picked = input(false);
  /** Is there but does nothing at present. */
  readonly off = input(false);
  /** Where its words do not say what it is. */
  readonly label = input('');
  readonly press = output<MouseEvent>();
}
