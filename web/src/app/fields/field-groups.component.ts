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
  styles: `
    details {
      padding: 2px 0 8px;
    }
    summary {
      padding: 6px 0;
      font-weight: 600;
      font-size: 12px;
      cursor: pointer;
      list-style: none;
    }
    details:not([open]) summary {
      color: var(--quiet);
    }
  `,
})
export class FieldGroupsComponent {
  readonly groups = input.required<FieldGroup[]>();
}
