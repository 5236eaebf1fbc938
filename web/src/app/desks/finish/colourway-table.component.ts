import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { Finish } from '@zippy/core/document';
import { Colourways } from '../../store/edits/colourways';
import { FINISH_DRAG, finishIn } from '../../store/edits/finish-shelf';
import { Studio } from '../../store/studio';
import { FoldComponent } from '../../ui/fold.component';
import { IconComponent } from '../../ui/icon.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { TextFieldComponent } from '../../ui/text-field.component';

/**
 * Variants of the product as columns, what they dress differently as rows. The variant that is shown takes what is put on parts;
 * finishes can be dropped into any cell too.
 */
@Component({
  selector: 'zr-colourway-table',
  imports: [
    FoldComponent,
    IconComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    SmallButtonComponent,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Colourways" [open]="colourways.all().length > 0">
      <div class="shown" role="group" aria-label="Shown colourway">
        <button matButton="tonal" [attr.aria-pressed]="colourways.shown() === null" (click)="colourways.show(null)">
          As it is
        </button>
        @for (each of colourways.all(); track each.id) {
          <button
            matButton="tonal"
            [attr.aria-pressed]="colourways.shown() === each.id"
            (click)="colourways.show(each.id)"
          >
            {{ each.name }}
          </button>
        }
        <button matButton (click)="colourways.add()"><zr-icon name="plus" /> Colourway</button>
        @if (colourways.all().length > 1) {
          <button
            matButton
            matTooltip="The product beside itself, once in each colourway: copies that stay editable"
            (click)="colourways.lineUp()"
          >
            Line up all {{ colourways.all().length }}
          </button>
        }
      </div>
      @if (present(); as own) {
        <div class="name">
          <zr-text label="Name of the colourway" [value]="own.name" (changed)="colourways.rename(own.id, $event)" />
          <zr-small-button icon="trash" [label]="'Delete ' + own.name" (press)="colourways.remove(own.id)" />
        </div>
        <p class="quiet">What is put on parts now belongs to "{{ own.name }}" alone.</p>
      }
      @if (colourways.rows().length > 0) {
        <div class="scroll">
          <table>
            <thead>
              <tr>
                <th scope="col">Part</th>
                <th scope="col">As it is</th>
                @for (each of colourways.all(); track each.id) {
                  <th scope="col" [class.present]="colourways.shown() === each.id">{{ each.name }}</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (row of colourways.rows(); track row.id) {
                <tr>
                  <th scope="row" [title]="row.name">{{ row.name }}</th>
                  <td><i [style.background-image]="pictureOf(row.resting)" [matTooltip]="nameOf(row.resting)"></i></td>
                  @for (each of colourways.all(); track each.id) {
                    <td
                      (dragover)="$event.preventDefault()"
                      (drop)="drop($event, each.id, row.id)"
                      [class.present]="colourways.shown() === each.id"
                    >
                      @if (row.wears[each.id]; as finish) {
                        <button
                          matRipple
                          [style.background-image]="pictureOf(finish)"
                          [matTooltip]="nameOf(finish) + ': click leaves the part as it is'"
                          [attr.aria-label]="row.name + ' in ' + each.name + ': ' + nameOf(finish) + '. Leave as it is'"
                          (click)="colourways.put(each.id, [row.id], null)"
                        ></button>
                      } @else {
                        <span class="quiet" matTooltip="As it is; drop a finish here">–</span>
                      }
                    </td>
                  }
                </tr>
              }
            </tbody>
          </table>
        </div>
      } @else if (colourways.all().length > 0) {
        <p class="quiet">Nothing differs yet: put finishes on parts while a colourway is shown.</p>
      }
    </zr-fold>
  `,
  styles: `
    .shown {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    .name {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px;
      padding-top: 6px;
    }
    p {
      margin: 6px 0;
    }
    .scroll {
      overflow-x: auto;
    }
    table {
      border-collapse: collapse;
      font-size: 11px;
    }
    th {
      max-width: 76px;
      padding: 2px 6px 2px 0;
      overflow: hidden;
      font-weight: 400;
      text-align: start;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    td {
      padding: 2px;
      text-align: center;
    }
    .present {
      background: color-mix(in srgb, var(--select) 24%, var(--panel));
    }
    td i,
    td button {
      display: block;
      width: 40px;
      height: 33px;
      padding: 0;
      border: 0;
      border-radius: 4px;
      background: var(--raised) center / cover;
    }
    td button {
      cursor: pointer;
    }
  `,
})
export class ColourwayTableComponent {
  readonly colourways = inject(Colourways);
  private readonly studio = inject(Studio);
  /** Addresses of pictures of the project's finishes. */
  readonly pictures = input.required<(finish: Finish) => string | null>();
  readonly present = computed(() => this.colourways.all().find(({ id }) => id === this.colourways.shown()));

  private finish(id: string | null): Finish | undefined {
    return id === null ? undefined : this.studio.document().finishes[id];
  }

  nameOf = (id: string | null): string => this.finish(id)?.name ?? 'No finish';

  pictureOf(id: string | null): string | null {
    const finish = this.finish(id);
    return finish ? this.pictures()(finish) : null;
  }

  drop(event: DragEvent, colourway: string, row: string): void {
    const data = event.dataTransfer?.getData(FINISH_DRAG);
    if (!data) return;
    event.preventDefault();
    const dropped = JSON.parse(data) as string | Partial<Finish>;
    this.studio.edit('Dress a colourway', (draft) => {
      const own = draft.colourways[colourway];
      if (own) own.wears[row] = typeof dropped === 'string' ? dropped : finishIn(draft, dropped);
    });
  }
}
