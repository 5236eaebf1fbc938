import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Session } from '../../store/session';
import { Studio } from '../../store/studio';
import { DialogComponent } from '../../ui/dialog.component';

/** Shown where another window saved first: merge, or keep both. */
@Component({
  selector: 'zr-conflict-dialog',
  imports: [DialogComponent, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (studio.conflict()) {
      <zr-dialog kind="alertdialog" label="Changed in another window">
        <h2>Another window saved this project first</h2>
        <p>
          Nothing is lost. Merge lays your changes over the other window's. Keep both makes a copy with your changes and
          leaves the other alone.
        </p>
        <button answers matButton="tonal" (click)="session.keepBoth()">Keep both</button>
        <button answers matButton="filled" (click)="session.mergeConflict()">Merge</button>
      </zr-dialog>
    }
  `,
  styles: `
    p {
      margin: 0;
    }
  `,
})
export class ConflictDialogComponent {
  readonly session = inject(Session);
  readonly studio = inject(Studio);
}
