import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../ui/choice.component';
import { FoldComponent } from '../ui/fold.component';
import { SmallButtonComponent } from '../ui/small-button.component';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Copies } from '@zippy/core/document';
import { copyCount } from '@zippy/core/geometry';
import { chosenFinish, finishOptions } from '../fields/finish-options';
import { copyFields } from '../fields/field-specs';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { Parts } from '../store/edits/parts';
import { Studio } from '../store/studio';

const KINDS: { value: Copies['kind'] | ''; label: string }[] = [
  { value: '', label: 'None' },
  { value: 'line', label: 'In a line' },
  { value: 'grid', label: 'In a grid' },
  { value: 'ring', label: 'In a ring' },
];

/** Copies of a node: how many, where, and how they differ. */
@Component({
  selector: 'zr-copies',
  imports: [
    ChoiceComponent,
    FoldComponent,
    MatButtonModule,
    MatTooltipModule,
    PropertyFieldComponent,
    SmallButtonComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold [title]="'Copies' + (copies() ? ' · ' + count() : '')" [open]="copies() !== null">
      <div class="kind">
        <span class="quiet">Copies</span>
        <zr-choice label="Copies" [options]="kinds" [value]="copies()?.kind ?? ''" (chosen)="choose($any($event))" />
      </div>
      @for (field of fields(); track field.path) {
        <zr-property [spec]="field" />
      }
      @if (chosen(); as chosen) {
        @for (each of chosen; track each.id; let first = $first) {
          <div class="kind">
            <span class="quiet">{{ first ? 'In place of' : 'and' }}</span>
            <div class="worn">
              <zr-choice
                [label]="first ? 'Finish whose place the others take' : 'Finish ' + ($index + 1) + ' of the copies'"
                [options]="finishes()"
                [value]="each.id"
                (chosen)="dress($index, $event)"
              />
              <zr-small-button
                icon="trash"
                [label]="'Leave ' + each.name + ' out'"
                (press)="parts.dressCopies(node(), $index, null)"
              />
            </div>
          </div>
        }
        <div class="kind">
          <span class="quiet">{{ chosen.length === 0 ? 'In place of' : 'and' }}</span>
          <zr-choice
            label="One more finish of the copies"
            placeholder="Add a finish"
            [options]="finishes()"
            [value]="null"
            (chosen)="dress(chosen.length, $event)"
          />
        </div>
      }
      @if (copies()?.dressed === 'colourways' && colourways() === 0) {
        <p class="quiet">There are no colourways yet: make some on the Finish desk.</p>
      }
      @if (copies()) {
        <button
          matButton="tonal"
          matTooltip="Each can then wear its own finish and go its own way"
          (click)="parts.separate(node())"
        >
          Make parts of their own
        </button>
      }
    </zr-fold>
  `,
  styles: `
    button {
      margin-top: 6px;
    }
    .kind {
      display: grid;
      grid-template-columns: 92px 1fr;
      align-items: center;
      gap: 6px;
      padding-bottom: 4px;
    }
    .worn {
      display: flex;
    }
    .worn zr-choice {
      flex: 1;
    }
  `,
})
export class CopiesComponent {
  readonly parts = inject(Parts);
  private readonly studio = inject(Studio);
  readonly node = input.required<string>();
  readonly kinds = KINDS;
  readonly copies = computed(() => this.studio.document().nodes[this.node()]?.copies ?? null);
  readonly count = computed(() => {
    const copies = this.copies();
    return copies ? copyCount(copies) : 1;
  });
  readonly fields = computed(() => {
    const copies = this.copies();
    return copies ? copyFields(this.node(), copies) : [];
  });

  /** Finishes between which the rule chooses; null where it chooses between none. */
  readonly chosen = computed(() => {
    const copies = this.copies();
    if (!copies || copies.dressed === 'same' || copies.dressed === 'colourways') return null;
    const { finishes } = this.studio.document();
    return copies.wears.map((id) => ({ id, name: finishes[id]?.name ?? 'what is gone' }));
  });
  readonly finishes = computed(() => finishOptions(this.studio.document()));
  readonly colourways = computed(() => Object.keys(this.studio.document().colourways).length);

  dress(place: number, chosen: string): void {
    this.parts.dressCopies(this.node(), place, chosenFinish(chosen));
  }

  choose(kind: Copies['kind'] | ''): void {
    this.parts.copyAs(this.node(), kind || null);
  }
}
