import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { FieldGroup } from '../kinds/field';
import { Folds } from './folds';
import { FoldComponent } from '../ui/fold.component';
import { PropertyFieldComponent } from './property-field.component';

/** Groups of fields that fold, and remember it. */
@Component({
  selector: 'zr-field-groups',
  imports: [FoldComponent, PropertyFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <zr-fold
        [title]="group.title"
        [open]="allOpen() || !folds.has(group.title)"
        (turned)="fold(group.title, !$event)"
      >
        @for (field of group.fields; track field.path) {
          <zr-property [spec]="field" />
        }
      </zr-fold>
    }
  `,
})
export class FieldGroupsComponent {
  readonly folds = inject(Folds);
  readonly groups = input.required<FieldGroup[]>();
  /** Folded ones are open too, and stay remembered as folded. */
  readonly allOpen = input(false);

  fold(title: string, folded: boolean): void {
    if (!this.allOpen()) this.folds.set(title, folded);
  }
}
