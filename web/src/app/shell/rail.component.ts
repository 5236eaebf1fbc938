import { MatTooltipModule } from '@angular/material/tooltip';
import { MatRippleModule } from '@angular/material/core';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Readiness } from '../store/readiness';
import { DESK_ENTRIES, DESKS, type Desk } from '../desks/registry';
import { Studio } from '../store/studio';
import { IconComponent } from '../ui/icon.component';

/** The desks in the order of the work. A dot says that something there will spoil the film. */
@Component({
  selector: 'zr-rail',
  imports: [IconComponent, MatRippleModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Desks">
      @for (desk of desks; track desk) {
        <button
          matRipple
          [attr.aria-current]="studio.desk() === desk ? 'page' : null"
          [matTooltip]="hint(desk)"
          matTooltipPosition="right"
          (click)="studio.openDesk(desk)"
        >
          <zr-icon [name]="entries[desk].icon" />
          <span>{{ entries[desk].name }}</span>
          @if (readiness.of(desk).length > 0) {
            <i class="dot" [attr.aria-label]="readiness.of(desk).length + ' to look at'"></i>
          }
        </button>
      }
    </nav>
  `,
  styles: `
    :host {
      border-radius: 10px;
      background: var(--panel);
      min-height: 0;
      overflow: auto;
      scrollbar-width: none;
    }
    nav {
      display: grid;
      gap: 2px;
      padding: 6px;
    }
    button {
      position: relative;
      display: grid;
      justify-items: center;
      gap: 3px;
      padding: 7px 0 5px;
      border: 0;
      border-radius: 8px;
      background: none;
      color: var(--quiet);
      font: 500 11px var(--font);
      cursor: pointer;
    }
    button:hover {
      color: var(--text);
    }
    button[aria-current] {
      background: var(--raised);
      color: var(--text);
    }
    button[aria-current] zr-icon {
      color: var(--select);
    }
    .dot {
      position: absolute;
      top: 6px;
      right: 12px;
      width: 7px;
      height: 7px;
      border-radius: 50%;
      background: var(--light);
    }
  `,
})
export class RailComponent {
  readonly studio = inject(Studio);
  readonly readiness = inject(Readiness);
  readonly desks = DESKS;
  readonly entries = DESK_ENTRIES;

  hint(desk: Desk): string {
    return (
      this.readiness
        .of(desk)
        .map((each) => each.text)
        .join('\n') || `${DESK_ENTRIES[desk].name} (${DESKS.indexOf(desk) + 1})`
    );
  }
}
