import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Session } from '../state/session';
import { Studio } from '../state/studio';

/** Shown where another window saved first: merge, or keep both. */
@Component({
  selector: 'zr-conflict-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (studio.state().conflict) {
      <div class="back"></div>
      <div class="box" role="alertdialog" aria-modal="true" aria-label="Changed in another window">
        <h2>Another window saved this project first</h2>
        <p>
          Nothing is lost. Merge lays your changes over the other window's. Keep both makes a copy with your changes and
          leaves the other alone.
        </p>
        <div class="row">
          <button class="control" (click)="session.keepBoth()">Keep both</button>
          <button class="control primary" (click)="session.mergeConflict()">Merge</button>
        </div>
      </div>
    }
  `,
  styles: `
    .back {
      position: fixed;
      inset: 0;
      background: var(--shade);
      z-index: 20;
    }
    .box {
      position: fixed;
      z-index: 21;
      top: 50%;
      left: 50%;
      translate: -50% -50%;
      width: 420px;
      padding: 20px;
      border-radius: 10px;
      background: var(--panel);
      border: 1px solid var(--line);
    }
    h2 {
      font-size: 15px;
    }
    .row {
      display: flex;
      justify-content: end;
      gap: 8px;
    }
  `,
})
export class ConflictDialogComponent {
  readonly session = inject(Session);
  readonly studio = inject(Studio);
}
