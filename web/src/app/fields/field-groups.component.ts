import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { FieldGroup } from './field';
import { Folds } from './folds';
import { PropertyFieldComponent } from './property-field.component';

/** Groups of fields that fold, and remember it. */
@Component({
  selector: 'zr-field-groups',
  imports: [PropertyFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <details #details [open]="allOpen() || !folds.has(group.title)" (toggle)="fold(group.title, !details.open)">
        <summary>{{ group.title }}</summary>
        @for (field of group.fields; track field.path) {
          <zr-property [spec]="field" />
        }
      </details>
    }
  `,
  styleUrl: './fold.scss',
  styles: `
    summary {
      list-style: none;
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
