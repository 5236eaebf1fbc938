import { ChoiceComponent } from '../ui/choice.component';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { UNITS, type Unit } from '@zippy/core/intake';
import { Importer } from '../tasks/import/importer';
import { Models } from '../store/edits/models';
import { Studio } from '../store/studio';

/** The unit that the lengths of a model's file are meant in, at the node that the whole model stands under. */
@Component({
  selector: 'zr-model-unit',
  imports: [ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (standing(); as standing) {
      <div class="pair">
        <span class="quiet">Lengths in</span>
        <zr-choice
          label="Unit of the model"
          placeholder="own scale"
          [options]="units"
          [value]="standing.unit"
          (chosen)="set($any($event))"
        />
      </div>
    }
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 86px 1fr 24px;
      align-items: center;
      gap: 6px;
      padding: 2px 0;
    }
  `,
})
export class ModelUnitComponent {
  private readonly models = inject(Models);
  private readonly importer = inject(Importer);
  private readonly studio = inject(Studio);
  readonly node = input.required<string>();
  readonly units = Object.keys(UNITS).map((value) => ({ value, label: value }));
  readonly standing = computed(() => this.models.standing(this.node()));

  set(unit: Unit): void {
    this.models.setUnit(this.node(), unit);
    // Grown or shrunk a thousand times, it would be out of sight; the shot's camera follows it by itself.
    if (!this.studio.throughCamera()) this.importer.placed.set(this.node());
  }
}
