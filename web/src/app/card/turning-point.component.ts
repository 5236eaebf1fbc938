import { MatButtonModule } from '@angular/material/button';
import { FoldComponent } from '../ui/fold.component';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { pivotFields } from '../fields/field-specs';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { PickingTask } from '../store/picking';
import { Pivots } from '../store/edits/pivots';
import { Studio } from '../store/studio';

/** Where a node turns, and about what. */
@Component({
  selector: 'zr-turning-point',
  imports: [FoldComponent, MatButtonModule, PropertyFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Turns about">
      <div class="ways" role="group" aria-label="Turning point">
        <button matButton="tonal" (click)="pivots.toCentre()">Centre</button>
        <button matButton="tonal" (click)="pivots.toBase()">Base</button>
        <button matButton="tonal" [attr.aria-pressed]="asks('point')" (click)="pivots.pickPoint()">Picked point</button>
        <button matButton="tonal" [attr.aria-pressed]="asks('axis')" (click)="pivots.pickAxis()">Round face</button>
        <button matButton="tonal" [attr.aria-pressed]="asks('part')" (click)="pivots.pickPart()">Other part</button>
      </div>
      @for (field of fields(); track field.path) {
        <zr-property [spec]="field" />
      }
    </zr-fold>
  `,
  styles: `
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding-bottom: 4px;
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
