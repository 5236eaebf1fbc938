import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../../ui/choice.component';
import { DialogComponent } from '../../ui/dialog.component';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { RevisionState } from '@zippy/core/intake';
import { Api } from '../../api/api';
import { Revisions } from './revisions';

const STATES: Record<RevisionState, string> = {
  changed: 'Changed',
  moved: 'Moved',
  gone: 'Gone',
  new: 'New',
  same: 'The same',
};
const BY = { path: '', name: 'by its name', shape: 'by its shape', hand: 'by hand' } as const;

/** Which part of a new revision is which, before it takes the place of a model. */
@Component({
  selector: 'zr-revision-dialog',
  imports: [ChoiceComponent, DialogComponent, MatButtonModule, MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (revisions.view(); as view) {
      <zr-dialog label="New revision" [width]="760">
        <h2>{{ view.file }} in the place of {{ view.asset.name }}</h2>
        <p class="quiet">{{ told() }}. Parts that are known keep their finish, motion, turning point and place.</p>
        <div class="table">
          <table>
            <thead>
              <tr>
                <th scope="col">Part now</th>
                <th scope="col">In the new file</th>
                <th scope="col">What became of it</th>
              </tr>
            </thead>
            <tbody>
              @for (row of shown(); track (row.match.before ?? 'new') + '/' + row.match.after) {
                <tr [class]="row.state">
                  <td>
                    @if (row.before; as part) {
                      <img
                        [src]="api.meshUrl(view.asset.hash, part.mesh)"
                        alt=""
                        loading="lazy"
                        width="40"
                        height="40"
                      />
                      <span [title]="part.path">{{ part.name }}</span>
                    }
                  </td>
                  <td>
                    @if (row.after; as part) {
                      <img
                        [src]="api.meshUrl(view.model.hash, part.mesh)"
                        alt=""
                        loading="lazy"
                        width="40"
                        height="40"
                      />
                    }
                    @if (row.match.before !== null) {
                      <zr-choice
                        [label]="'New part for ' + row.before!.name"
                        [options]="afterOptions()"
                        [value]="row.match.after === null ? '' : '' + row.match.after"
                        (chosen)="say(row.match.before, $event)"
                      />
                    } @else {
                      <span [title]="row.after!.path">{{ row.after!.name }}</span>
                    }
                  </td>
                  <td>
                    <b>{{ states[row.state] }}</b>
                    @if (row.match.by && by[row.match.by]; as how) {
                      <span class="quiet">known {{ how }}</span>
                    }
                    @if (row.state === 'gone' || row.state === 'new') {
                      <mat-checkbox [checked]="row.match.keep" (change)="revisions.keep(row.match, $event.checked)">{{
                        row.state === 'gone' ? 'keep it as it was' : 'bring it in'
                      }}</mat-checkbox>
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        </div>
        <button answers matButton="tonal" (click)="revisions.leave()">Leave the model as it is</button>
        <button answers matButton="filled" cdkFocusInitial (click)="revisions.take()">Take the new revision</button>
      </zr-dialog>
    }
  `,
  styles: `
    .table {
      overflow: auto;
      min-height: 120px;
      border-radius: 6px;
      background: var(--raised);
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      position: sticky;
      top: 0;
      padding: 6px 8px;
      background: var(--raised);
      color: var(--quiet);
      font-weight: 500;
      text-align: left;
    }
    td {
      padding: 3px 8px;
      border-top: 1px solid var(--line);
      vertical-align: middle;
    }
    td:nth-child(-n + 2) {
      width: 36%;
    }
    img {
      margin-right: 6px;
      vertical-align: middle;
    }
    zr-choice {
      max-width: 190px;
    }
    mat-checkbox,
    td b + .quiet {
      margin-left: 8px;
    }
    .changed b {
      color: var(--motion);
    }
    .moved b {
      color: var(--motion);
    }
    .gone b,
    .new b {
      color: var(--light);
    }
    .same b {
      font-weight: 400;
      color: var(--quiet);
    }
  `,
})
export class RevisionDialogComponent {
  readonly revisions = inject(Revisions);
  readonly api = inject(Api);
  readonly afterOptions = computed(() => [
    { value: '', label: 'none' },
    ...(this.revisions.view()?.after ?? []).map(({ name }, k) => ({ value: String(k), label: name })),
  ]);
  readonly states = STATES;
  readonly by = BY;

  /** What needs a look comes first. */
  readonly shown = computed(() => {
    const order = Object.keys(STATES);
    const weight = (state: RevisionState, by: string | null) => order.indexOf(state) - (by === 'shape' ? 0.5 : 0);
    return [...this.revisions.rows()].sort((a, b) => weight(a.state, a.match.by) - weight(b.state, b.match.by));
  });

  readonly told = computed(() => {
    const rows = this.revisions.rows();
    return Object.entries(STATES)
      .map(([state, name]) => [rows.filter((row) => row.state === state).length, name.toLowerCase()] as const)
      .filter(([count]) => count > 0)
      .map(([count, name]) => `${count} ${name}`)
      .join(', ');
  });

  say(before: number, value: string): void {
    this.revisions.say(before, value === '' ? null : Number(value));
  }
}
