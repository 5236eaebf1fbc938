import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../ui/choice.component';
import { FoldComponent } from '../ui/fold.component';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Copies } from '@zippy/core/document';
import { copyCount } from '@zippy/core/geometry';
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
  imports: [ChoiceComponent, FoldComponent, MatButtonModule, MatTooltipModule, PropertyFieldComponent],
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

  choose(kind: Copies['kind'] | ''): void {
    this.parts.copyAs(this.node(), kind || null);
  }
}
