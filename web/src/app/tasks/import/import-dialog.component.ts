import { FoldComponent } from '../../ui/fold.component';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../../ui/choice.component';
import { DialogComponent } from '../../ui/dialog.component';
import { TextFieldComponent } from '../../ui/text-field.component';
import { portraitUrl } from '../../api/urls';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { defaultRecipe, sayNumber, type Recipe } from '@zippy/core/document';
import {
  MEND_OF,
  TESSELLATIONS,
  UNITS,
  type ModelSummary,
  type Standing,
  type Unit,
  type UpAxis,
} from '@zippy/core/intake';
import { readNumber } from '../../ui/arithmetic';
import { compareFamiliar } from './familiar';
import { sayFinding } from './findings';
import { Importer, type TakenAlong } from './importer';

const SIDES = ['Width', 'Height', 'Depth'] as const;
const TURNS = ['as it is', 'a quarter turn', 'half round', 'three quarters'] as const;
const FINENESS = { draft: 'Draft', normal: 'Normal', fine: 'Fine' } as const;
type Fineness = keyof typeof FINENESS;

/** What was found in a file, and what shall become of it, before it is taken into the project. */
@Component({
  selector: 'zr-import-dialog',
  imports: [
    DialogComponent,
    ChoiceComponent,
    FoldComponent,
    MatButtonModule,
    MatCheckboxModule,
    MatProgressBarModule,
    MatTooltipModule,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (importer.view(); as view) {
      <zr-dialog label="Bring in a model" [width]="view.step === 'read' ? 820 : 460">
        <h2>{{ view.name }}</h2>
        @if (view.step !== 'read') {
          <p role="status">
            {{
              {
                sending: 'Sending the file…',
                reading: 'Reading solids and parts… the first STEP file takes longer.',
                watching: 'Reading it frame by frame…',
                placing: 'Placing the parts…',
              }[view.step]
            }}
          </p>
          <mat-progress-bar
            [aria-label]="view.name"
            [mode]="view.part < 1 ? 'determinate' : 'indeterminate'"
            [value]="100 * view.part"
          />
          <div class="answers"><button matButton="tonal" (click)="importer.stop()">Stop</button></div>
        } @else if (view.job?.summary; as summary) {
          <div class="columns">
            <div class="look">
              <img [src]="portrait()" alt="The model as it will stand" width="300" height="200" />
              <div class="scale" aria-hidden="true">
                <i [style.width.%]="bars().product"></i>
                <span class="mono">{{ longest() }} mm</span>
                <i class="other" [style.width.%]="bars().other"></i>
                <span>{{ familiar().name }}</span>
              </div>
              <p [class.warn]="unusual()">{{ familiar().sentence }}{{ unusual() }}</p>
              <p class="quiet mono">
                {{ say(summary.parts) }} {{ summary.parts === 1 ? 'part' : 'parts' }} ·
                {{ say(summary.triangles) }} triangles
              </p>
            </div>
            <div class="choices">
              <dl>
                <dt>Size in mm</dt>
                <dd class="sides">
                  @for (side of sides; track side; let k = $index) {
                    <div>
                      <span class="quiet">{{ side }}</span>
                      <zr-text
                        class="mono"
                        [label]="side + ' in mm'"
                        [value]="shown(millimetres()[k]!)"
                        matTooltip="Type the true length, and the whole model is scaled to it"
                        (changed)="setLength(k, $event)"
                      />
                    </div>
                  }
                </dd>
                <dt>Unit</dt>
                <dd>
                  <zr-choice label="Unit" [options]="unitOptions" [value]="unit()" (chosen)="setUnit($event)" />
                  <span class="quiet">{{
                    scale() === 1 ? summary.unitReason : 'Scaled to the length you typed.'
                  }}</span>
                </dd>
                <dt>Up axis</dt>
                <dd>
                  <zr-choice label="Up axis" [options]="upOptions" [value]="up()" (chosen)="up.set($any($event))" />
                  <span class="quiet">{{ summary.upReason }}</span>
                </dd>
                <dt>Turned</dt>
                <dd>
                  <zr-choice
                    label="Turned"
                    [options]="turnOptions"
                    [value]="String(front())"
                    (chosen)="front.set(+$event)"
                  />
                  <span class="quiet">until its front looks at you</span>
                </dd>
                <dt>Parts</dt>
                <dd>
                  <zr-choice
                    label="Parts"
                    [options]="mergeOptions"
                    [value]="merge()"
                    (chosen)="merge.set($any($event))"
                  />
                </dd>
                @if (summary.solids) {
                  <dt>Rounds</dt>
                  <dd>
                    <zr-choice
                      label="Rounds"
                      [options]="finenesses"
                      [value]="fineness()"
                      (chosen)="fineness.set($any($event))"
                    />
                    <span class="quiet">can be changed later</span>
                  </dd>
                }
                <dt>Place</dt>
                <dd>
                  <mat-checkbox [checked]="standing().centered" (change)="stand({ centered: $event.checked })"
                    >in the middle</mat-checkbox
                  >
                  <mat-checkbox [checked]="standing().onFloor" (change)="stand({ onFloor: $event.checked })"
                    >on the floor</mat-checkbox
                  >
                </dd>
                @if (came().length > 0) {
                  <dt>Came along</dt>
                  <dd class="came">
                    @for (each of came(); track each.key) {
                      <mat-checkbox [checked]="take()[each.key]" (change)="chooseAlong(each.key, $event.checked)">{{
                        each.label
                      }}</mat-checkbox>
                    }
                  </dd>
                }
              </dl>
              @if (summary.found.length > 0 || summary.notes.length > 0) {
                <zr-fold title="Found and mended" [open]="summary.found.length + summary.notes.length < 4">
                  <ul>
                    @for (line of report(); track line) {
                      <li>{{ line }}</li>
                    }
                    @for (note of summary.notes; track note) {
                      <li>{{ note }}</li>
                    }
                  </ul>
                </zr-fold>
              }
            </div>
          </div>
          <div class="answers">
            <button matButton="tonal" (click)="importer.stop()">Leave out</button>
            <button matButton="filled" cdkFocusInitial (click)="importer.accept(recipe(), standing(), take())">
              Take it in
            </button>
          </div>
        }
      </zr-dialog>
    }
  `,
  styleUrl: './import-dialog.component.scss',
})
export class ImportDialogComponent {
  readonly importer = inject(Importer);
  readonly units = Object.keys(UNITS) as Unit[];
  readonly sides = SIDES;
  readonly String = String;
  readonly unitOptions = this.units.map((value) => ({ value, label: value }));
  readonly upOptions = ['x', 'y', 'z'].map((value) => ({ value, label: `${value.toUpperCase()} up` }));
  readonly turnOptions = TURNS.map((label, k) => ({ value: String(k), label }));
  readonly mergeOptions = [
    { value: 'parts', label: 'keep all' },
    { value: 'finish', label: 'one for each finish' },
    { value: 'all', label: 'all as one' },
  ];
  readonly finenesses = (Object.keys(FINENESS) as Fineness[]).map((value) => ({
    value,
    label: `${FINENESS[value]} · within ${TESSELLATIONS[value].chord} mm`,
  }));
  private readonly summary = computed((): ModelSummary | null => this.importer.view()?.job?.summary ?? null);
  readonly unit = linkedSignal((): Unit => this.summary()?.unit ?? 'mm');
  readonly up = linkedSignal((): UpAxis => this.summary()?.up ?? 'y');
  readonly came = computed((): { key: keyof TakenAlong; label: string }[] => {
    const { cameras = 0, lights = 0, moving = 0, seconds = 0 } = this.summary()?.along ?? {};
    const many = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
    return [
      ...(cameras > 0 ? [{ key: 'cameras' as const, label: many(cameras, 'camera') }] : []),
      ...(lights > 0 ? [{ key: 'lights' as const, label: many(lights, 'light') }] : []),
      ...(moving > 0 && this.merge() === 'parts'
        ? [{ key: 'motion' as const, label: `motion of ${many(moving, 'part')}, ${seconds.toFixed(1)} s` }]
        : []),
    ];
  });
  /** A film has light and cameras of its own; how a product opens and turns is often worth keeping. */
  readonly take = linkedSignal({
    source: this.summary,
    computation: (): TakenAlong => ({ cameras: false, lights: false, motion: true }),
  });

  chooseAlong(key: keyof TakenAlong, taken: boolean): void {
    this.take.update((take) => ({ ...take, [key]: taken }));
  }

  /** Choices of one file do not stay for the next. */
  readonly scale = linkedSignal({ source: this.summary, computation: () => 1 });
  readonly front = linkedSignal({ source: this.summary, computation: () => 0 });
  readonly merge = linkedSignal({ source: this.summary, computation: (): Recipe['merge'] => 'parts' });
  readonly fineness = linkedSignal({ source: this.summary, computation: (): Fineness => 'normal' });
  readonly standing = linkedSignal({
    source: this.summary,
    computation: (): Standing => ({ centered: true, onFloor: true }),
  });
  readonly portrait = computed(() =>
    portraitUrl(this.importer.view()?.job?.id ?? '', { up: this.up(), front: this.front() }),
  );
  readonly millimetres = computed((): number[] => {
    const summary = this.summary();
    if (!summary) return [0, 0, 0];
    const factor = (UNITS[this.unit()] / UNITS[summary.unit]) * this.scale();
    const [width, height, depth] = uprightSize(summary.size, summary.up, this.up());
    const sides = this.front() % 2 === 0 ? [width, height, depth] : [depth, height, width];
    return sides.map((side) => side * factor);
  });
  private readonly most = computed(() => Math.max(...this.millimetres()));
  readonly longest = computed(() => this.shown(this.most()));
  readonly familiar = computed(() => compareFamiliar(this.most()));
  /** Both lengths as bars of one scale. */
  readonly bars = computed(() => {
    const longer = Math.max(this.most(), this.familiar().size);
    return { product: (100 * this.most()) / longer, other: (100 * this.familiar().size) / longer };
  });
  readonly unusual = computed(() => (this.most() < 8 || this.most() > 3500 ? '. Is the unit right?' : ''));
  readonly report = computed(() =>
    (this.summary()?.found ?? []).map(({ finding, count, meshes }) => {
      const where = (this.summary()?.parts ?? 1) > 1 ? ` (in ${meshes} ${meshes === 1 ? 'mesh' : 'meshes'})` : '';
      return `${sayFinding(finding, count, MEND_OF[finding])}${where}.`;
    }),
  );
  readonly recipe = computed((): Recipe => ({
    ...defaultRecipe(),
    ...TESSELLATIONS[this.fineness()],
    unit: this.unit(),
    scale: this.scale(),
    up: this.up(),
    front: this.front(),
    merge: this.merge(),
  }));

  protected readonly say = sayNumber;
  shown = (length: number): string => String(Number(length.toPrecision(4)));

  setUnit(name: string): void {
    this.unit.set(name as Unit);
    this.scale.set(1);
  }

  /** The typed length of one side scales all. */
  setLength(side: number, typed: string): void {
    const length = readNumber(typed, 'mm') ?? 0;
    const present = this.millimetres()[side]!;
    if (length > 0 && Number.isFinite(length) && present > 0) this.scale.update((scale) => (scale * length) / present);
  }

  stand(over: Partial<Standing>): void {
    this.standing.update((standing) => ({ ...standing, ...over }));
  }
}

/** Width, height and depth of a box whose sides were measured with one axis up, with another one up. */
function uprightSize(size: readonly number[], from: UpAxis, to: UpAxis): [number, number, number] {
  const [width, height, depth] = size as [number, number, number];
  const [x, y, z] =
    from === 'y' ? [width, height, depth] : from === 'z' ? [width, depth, height] : [height, width, depth];
  return to === 'y' ? [x, y, z] : to === 'z' ? [x, z, y] : [y, x, z];
}
