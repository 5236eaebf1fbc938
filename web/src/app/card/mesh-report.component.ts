import { FoldComponent } from '../ui/fold.component';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../ui/choice.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { ACCEPTED, TESSELLATIONS } from '@zippy/core/intake';
import { sayFinding } from '../tasks/import/findings';
import { Revisions } from '../tasks/revision/revisions';
import { Models, type PartFinding } from '../store/edits/models';
import { Studio } from '../store/studio';

const SOLIDS = /\.(step|stp|iges|igs|brep|brp)$/i;

/** What was found in the mesh of a part and mended, each to be undone, and how finely its model's rounds are cut. */
@Component({
  selector: 'zr-mesh-report',
  imports: [ChoiceComponent, FileButtonComponent, FoldComponent, MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asset(); as asset) {
      <zr-fold [title]="'Mesh of ' + asset.name" [open]="findings().length > 0">
        @for (each of findings(); track each.finding) {
          <div class="row">
            <span>{{ sentence(each) }}</span>
            @if (each.mend && asset.recipe) {
              <button
                matButton="tonal"
                [disabled]="models.making() !== null"
                (click)="models.setMend(part()!, each.mend, !each.mended)"
              >
                {{ each.mended ? 'Undo' : 'Mend' }}
              </button>
            }
          </div>
        } @empty {
          <p class="quiet">Nothing was wrong with it.</p>
        }
        @if (asset.recipe && solids()) {
          <div class="row">
            <span>Rounds</span>
            <zr-choice
              label="Rounds"
              [options]="finenesses"
              [value]="present()"
              [disabled]="models.making() !== null"
              (chosen)="cut($event)"
            />
          </div>
        }
        <div class="row">
          <span>From {{ asset.sourceName }}</span>
          <zr-file-button
            label="New revision"
            hint="Put a newer file in its place"
            multiple
            [accept]="accepted"
            (files)="revise($event)"
            >New revision…</zr-file-button
          >
        </div>
        @if (models.making(); as name) {
          <p role="status" class="quiet">{{ name }} is made again from its file…</p>
          <mat-progress-bar mode="indeterminate" aria-label="Making the model again" />
        }
      </zr-fold>
    }
  `,
  styles: `
    .row {
      display: flex;
      gap: 8px;
      align-items: center;
      justify-content: space-between;
      min-height: 32px;
      padding: 2px 0;
    }
    zr-choice {
      flex: 1;
    }
    p {
      margin: 4px 0;
    }
  `,
})
export class MeshReportComponent {
  readonly models = inject(Models);
  private readonly studio = inject(Studio);
  private readonly revisions = inject(Revisions);
  readonly accepted = ACCEPTED;
  readonly node = input.required<string>();
  readonly finenesses = Object.entries(TESSELLATIONS).map(([value, { chord }]) => ({
    value,
    label: `${value} · within ${chord} mm`,
  }));
  readonly part = computed(() => this.studio.document().nodes[this.node()] ?? null);
  readonly asset = computed(() => {
    const part = this.part();
    return part?.mesh ? this.models.assetOf(part) : null;
  });
  readonly findings = computed(() => {
    const part = this.part();
    return part ? this.models.findingsOf(part) : [];
  });
  readonly solids = computed(() => SOLIDS.test(this.asset()?.sourceName ?? ''));
  readonly present = computed(() => {
    const recipe = this.asset()?.recipe;
    return Object.entries(TESSELLATIONS).find(([, { chord }]) => chord === recipe?.chord)?.[0] ?? 'normal';
  });

  sentence({ finding, count, mend, mended }: PartFinding): string {
    const left = mend && !mended ? (count === 1 ? ' Left as it came.' : ' Left as they came.') : '';
    return `${sayFinding(finding, count, mended ? mend : null)}.${left}`;
  }

  revise(files: File[]): void {
    const asset = this.asset();
    if (asset) void this.revisions.bring(asset, files);
  }

  cut(name: string): void {
    const asset = this.asset();
    const tessellation = TESSELLATIONS[name as keyof typeof TESSELLATIONS];
    if (asset) void this.models.rebuild(asset, tessellation, 'Rounds');
  }
}
