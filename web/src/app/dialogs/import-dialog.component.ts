import { CdkTrapFocus } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { UNITS, type Unit, type UpAxis } from '@zippy/core/intake';
import { Importer } from './importer';

/** What was found in a file, before it is taken into the project. */
@Component({
  selector: 'zr-import-dialog',
  imports: [CdkTrapFocus],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (importer.view(); as view) {
      <div class="dialog-back"></div>
      <div
        class="dialog"
        role="dialog"
        aria-modal="true"
        aria-label="Bring in a model"
        cdkTrapFocus
        [cdkTrapFocusAutoCapture]="true"
      >
        <h2>{{ view.name }}</h2>
        @if (view.step !== 'read') {
          <p role="status">
            {{
              {
                sending: 'Sending the file…',
                reading: 'Reading solids and parts… the first STEP file takes longer.',
                placing: 'Placing the parts…',
              }[view.step]
            }}
          </p>
          <progress [value]="view.step === 'sending' ? view.part : null" max="1"></progress>
          <div class="dialog-row"><button class="control" (click)="importer.stop()">Stop</button></div>
        } @else if (view.job?.summary; as summary) {
          <dl>
            <dt>Size</dt>
            <dd class="mono">{{ size() }} mm</dd>
            <dt>Parts</dt>
            <dd class="mono">{{ summary.parts.toLocaleString('en') }}</dd>
            <dt>Triangles</dt>
            <dd class="mono">{{ summary.triangles.toLocaleString('en') }}</dd>
            <dt><label for="unit">Unit</label></dt>
            <dd>
              <select id="unit" class="control" #unitField (change)="unit.set($any(unitField.value))">
                @for (name of units; track name) {
                  <option [value]="name" [selected]="name === unit()">{{ name }}</option>
                }
              </select>
              <span class="quiet">{{ summary.unitReason }}</span>
            </dd>
            <dt><label for="up">Up axis</label></dt>
            <dd>
              <select id="up" class="control" #upField (change)="up.set($any(upField.value))">
                @for (name of ['x', 'y', 'z']; track name) {
                  <option [value]="name" [selected]="name === up()">{{ name.toUpperCase() }} up</option>
                }
              </select>
              <span class="quiet">{{ summary.upReason }}</span>
            </dd>
          </dl>
          @if (unusual()) {
            <p class="warn">{{ unusual() }}</p>
          }
          @for (note of summary.notes; track note) {
            <p class="quiet">{{ note }}</p>
          }
          <div class="dialog-row">
            <button class="control" (click)="importer.stop()">Leave out</button>
            <button class="control primary" (click)="importer.accept(unit(), up())">Take it in</button>
          </div>
        }
      </div>
    }
  `,
  styles: `
    .dialog {
      width: 460px;
      display: grid;
      gap: 12px;
    }
    p {
      margin: 0;
    }
    progress {
      width: 100%;
      accent-color: var(--select);
    }
    dl {
      display: grid;
      grid-template-columns: 90px 1fr;
      gap: 8px;
      margin: 0;
      align-items: center;
    }
    dt {
      color: var(--quiet);
    }
    dd {
      margin: 0;
      display: flex;
      gap: 10px;
      align-items: center;
    }
  `,
})
export class ImportDialogComponent {
  readonly importer = inject(Importer);
  readonly units = Object.keys(UNITS) as Unit[];
  readonly unit = linkedSignal((): Unit => this.importer.view()?.job?.summary?.unit ?? 'mm');
  readonly up = linkedSignal((): UpAxis => this.importer.view()?.job?.summary?.up ?? 'y');
  private readonly millimetres = computed(() => {
    const summary = this.importer.view()?.job?.summary;
    if (!summary) return [0, 0, 0];
    const factor = UNITS[this.unit()] / UNITS[summary.unit];
    const [width, height, depth] = summary.size;
    // The size was measured with the guessed axis up; another axis exchanges height for it.
    const sides = this.up() === summary.up ? [width, height, depth] : [width, depth, height];
    return sides.map((side) => side * factor);
  });
  readonly size = computed(() =>
    this.millimetres()
      .map((side) => Number(side.toPrecision(4)).toLocaleString('en'))
      .join(' × '),
  );
  readonly unusual = computed(() => {
    const most = Math.max(...this.millimetres());
    if (most < 8) return 'Smaller than a fingertip. Is the unit right?';
    return most > 3500 ? 'Larger than a door. Is the unit right?' : '';
  });
}
