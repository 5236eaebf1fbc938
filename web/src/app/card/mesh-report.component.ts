import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { ACCEPTED, TESSELLATIONS } from '@zippy/core/intake';
import { sayFinding } from '../dialogs/findings';
import { Revisions } from '../dialogs/revisions';
import { Models, type PartFinding } from '../state/models';
import { Studio } from '../state/studio';

const SOLIDS = /\.(step|stp|iges|igs|brep|brp)$/i;

/** What was found in the mesh of a part and mended, each to be undone, and how finely its model's rounds are cut. */
@Component({
  selector: 'zr-mesh-report',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asset(); as asset) {
      <details [open]="findings().length > 0">
        <summary>Mesh of {{ asset.name }}</summary>
        @for (each of findings(); track each.finding) {
          <div class="row">
            <span>{{ sentence(each) }}</span>
            @if (each.mend && asset.recipe) {
              <button
                class="control"
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
          <label class="row">
            <span>Rounds</span>
            <select #fineness class="control" [disabled]="models.making() !== null" (change)="cut(fineness.value)">
              @for (each of finenesses; track each.name) {
                <option [value]="each.name" [selected]="each.name === present()">
                  {{ each.name }} · within {{ each.chord }} mm
                </option>
              }
            </select>
          </label>
        }
        <div class="row">
          <span>From {{ asset.sourceName }}</span>
          <button class="control" title="Put a newer file in its place" (click)="file.click()">New revision…</button>
          <input #file type="file" hidden multiple [accept]="accepted" (change)="revise(file)" />
        </div>
        @if (models.making(); as name) {
          <p role="status" class="quiet">{{ name }} is made again from its file…</p>
          <progress></progress>
        }
      </details>
    }
  `,
  styles: `
    summary {
      min-height: 32px;
      line-height: 32px;
      cursor: pointer;
      font-weight: 600;
    }
    .row {
      display: flex;
      gap: 8px;
      align-items: center;
      justify-content: space-between;
      min-height: 32px;
      padding: 2px 0;
    }
    .row select,
    .row button {
      flex: none;
    }
    p {
      margin: 4px 0;
    }
    progress {
      width: 100%;
    }
  `,
})
export class MeshReportComponent {
  readonly models = inject(Models);
  private readonly studio = inject(Studio);
  private readonly revisions = inject(Revisions);
  readonly accepted = ACCEPTED;
  readonly node = input.required<string>();
  readonly finenesses = Object.entries(TESSELLATIONS).map(([name, { chord }]) => ({ name, chord }));
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

  revise(field: HTMLInputElement): void {
    const asset = this.asset();
    if (asset && field.files?.length) void this.revisions.bring(asset, [...field.files]);
    field.value = '';
  }

  cut(name: string): void {
    const asset = this.asset();
    const tessellation = TESSELLATIONS[name as keyof typeof TESSELLATIONS];
    if (asset) void this.models.rebuild(asset, tessellation, 'Rounds');
  }
}
