import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { pivotFields } from '../fields/field-specs';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { PickingTask } from '../state/picking';
import { Pivots } from '../state/pivots';
import { Studio } from '../state/studio';

/** Where a node turns, and about what. */
@Component({
  selector: 'zr-turning-point',
  imports: [PropertyFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details open>
      <summary>Turns about</summary>
      <div class="ways" role="group" aria-label="Turning point">
        <button class="control" (click)="pivots.toCentre()">Centre</button>
        <button class="control" (click)="pivots.toBase()">Base</button>
        <button class="control" [attr.aria-pressed]="asks('point')" (click)="pivots.pickPoint()">Picked point</button>
        <button class="control" [attr.aria-pressed]="asks('axis')" (click)="pivots.pickAxis()">Round face</button>
        <button class="control" [attr.aria-pressed]="asks('part')" (click)="pivots.pickPart()">Other part</button>
      </div>
      @for (field of fields(); track field.path) {
        <zr-property [spec]="field" />
      }
    </details>
  `,
  styleUrl: '../fields/fold.scss',
  styles: `
    summary {
      list-style: none;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding-bottom: 4px;
    }
    .ways .control {
      padding: 0 8px;
    }
  `,
})
export class TurningPointComponent {
  readonly pivots = inject(Pivots);
  private readonly picking = inject(PickingTask);
  private readonly studio = inject(Studio);
  readonly node = input.required<string>();
  readonly fields = computed(() => pivotFields(this.node(), this.studio.document()));

  asks = (kind: string): boolean => this.picking.task()?.kind === kind;
}
