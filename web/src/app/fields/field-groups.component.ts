import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { FieldGroup } from './field-specs';
import { PropertyFieldComponent } from './property-field.component';

/** Groups of fields that fold. */
@Component({
  selector: 'zr-field-groups',
  imports: [PropertyFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <details open>
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
  readonly groups = input.required<FieldGroup[]>();
}
