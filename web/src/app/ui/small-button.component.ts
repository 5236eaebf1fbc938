import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { IconComponent, type IconName } from './icon.component';

/** An icon to press in a row of a long list, of which hundreds are there at once: lighter than a button of its own can be. */
@Component({
  selector: 'zr-small-button',
  imports: [IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      [attr.aria-label]="label()"
      [title]="label()"
      [attr.aria-pressed]="pressed()"
      [style.rotate]="turned() ? '90deg' : null"
      (click)="$event.stopPropagation(); press.emit()"
      (dblclick)="$event.stopPropagation()"
    >
      <zr-icon [name]="icon()" />
    </button>
  `,
  styles: `
    :host {
      display: inline-flex;
      flex: none;
    }
    button {
      width: 26px;
      height: 32px;
      padding: 5px;
      border: 0;
      border-radius: 6px;
      background: none;
      color: var(--quiet);
      cursor: pointer;
    }
    button:hover,
    button[aria-pressed='true'] {
      color: var(--select);
    }
  `,
})
export class SmallButtonComponent {
  readonly icon = input.required<IconName>();
  readonly label = input.required<string>();
  readonly pressed = input<boolean | null>(null);
  /** A quarter turn, as of an arrow that opens something. */
  readonly turned = input(false);
  readonly press = output();
}
