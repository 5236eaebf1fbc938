import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { FieldGroup } from '../kinds/field';
import { Folds } from './folds';
import { FoldComponent } from '../ui/fold.component';
import { SmallButtonComponent } from '../ui/small-button.component';
import { FieldValues } from './field-values';
import { PropertyFieldComponent } from './property-field.component';

/** Groups of fields that fold, and remember it. */
@Component({
  selector: 'zr-field-groups',
  imports: [FoldComponent, PropertyFieldComponent, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <div class="group">
        <div class="carry">
          <zr-small-button icon="copy" [label]="'Copy the values of ' + group.title" (press)="values.copy(group)" />
          @if (values.fits(group)) {
            <zr-small-button
              icon="paste"
              [label]="'Put the copied values of ' + values.title() + ' here'"
              (press)="values.paste(group)"
            />
          }
        </div>
        <zr-fold
          [title]="group.title"
          [open]="allOpen() || !folds.has(group.title)"
          (turned)="fold(group.title, !$event)"
        >
          @for (field of group.fields; track field.label + field.path) {
            <zr-property [spec]="field" />
          }
        </zr-fold>
      </div>
    }
  `,
  styles: `
    .group {
      position: relative;
    }
    .carry {
      position: absolute;
      z-index: 1;
      inset-block-start: 8px;
      inset-inline-end: 28px;
      display: flex;
      opacity: 0;
    }
    .group:hover > .carry,
    .carry:focus-within {
      opacity: 1;
    }
  `,
})
export class FieldGroupsComponent {
  readonly folds = inject(Folds);
  readonly values = inject(FieldValues);
  readonly groups = input.required<FieldGroup[]>();
  /** Folded ones are open too, and stay remembered as folded. */
  readonly allOpen = input(false);

  fold(title: string, folded: boolean): void {
    if (!this.allOpen()) this.folds.set(title, folded);
  }
}
