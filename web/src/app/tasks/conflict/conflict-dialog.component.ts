import { MatButtonModule } from '@angular/material/button';
import { CdkTrapFocus } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Session } from '../../store/session';
import { Studio } from '../../store/studio';

/** Shown where another window saved first: merge, or keep both. */
@Component({
  selector: 'zr-conflict-dialog',
  imports: [CdkTrapFocus, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (studio.conflict()) {
      <div class="dialog-back"></div>
      <div
        class="dialog"
        role="alertdialog"
        aria-modal="true"
        aria-label="Changed in another window"
        cdkTrapFocus
        [cdkTrapFocusAutoCapture]="true"
      >
        <h2>Another window saved this project first</h2>
        <p>
          Nothing is lost. Merge lays your changes over the other window's. Keep both makes a copy with your changes and
          leaves the other alone.
        </p>
        <div class="dialog-row">
          <button matButton="tonal" (click)="session.keepBoth()">Keep both</button>
          <button matButton="filled" (click)="session.mergeConflict()">Merge</button>
        </div>
      </div>
    }
  `,
  styles: `
    .dialog {
      width: 440px;
    }
  `,
})
export class ConflictDialogComponent {
  readonly session = inject(Session);
  readonly studio = inject(Studio);
}
