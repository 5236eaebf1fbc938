import { portraitUrl } from '../api/urls';
import { CdkTrapFocus } from '@angular/cdk/a11y';
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
import { readNumber } from '../fields/arithmetic';
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
        [class.wide]="view.step === 'read'"
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
          <progress [attr.value]="view.step === 'sending' ? view.part : null" max="1"></progress>
          <div class="dialog-row"><button class="control" (click)="importer.stop()">Stop</button></div>
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
                    <label>
                      <span class="quiet">{{ side }}</span>
                      <input
                        #length
                        class="control mono"
                        [value]="shown(millimetres()[k]!)"
                        [attr.aria-label]="side + ' in mm'"
                        title="Type the true length, and the whole model is scaled to it"
                        (change)="setLength(k, length)"
                        (keydown.enter)="length.blur()"
                      />
                    </label>
                  }
                </dd>
                <dt><label for="unit">Unit</label></dt>
                <dd>
                  <select id="unit" class="control" #unitField (change)="setUnit(unitField.value)">
                    @for (name of units; track name) {
                      <option [value]="name" [selected]="name === unit()">{{ name }}</option>
                    }
                  </select>
                  <span class="quiet">{{
                    scale() === 1 ? summary.unitReason : 'Scaled to the length you typed.'
                  }}</span>
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
                <dt><label for="front">Turned</label></dt>
                <dd>
                  <select id="front" class="control" #frontField (change)="front.set(+frontField.value)">
                    @for (name of turns; track name; let k = $index) {
                      <option [value]="k" [selected]="k === front()">{{ name }}</option>
                    }
                  </select>
                  <span class="quiet">until its front looks at you</span>
                </dd>
                <dt><label for="merge">Parts</label></dt>
                <dd>
                  <select id="merge" class="control" #mergeField (change)="merge.set($any(mergeField.value))">
                    <option value="parts" [selected]="merge() === 'parts'">keep all</option>
                    <option value="finish" [selected]="merge() === 'finish'">one for each finish</option>
                    <option value="all" [selected]="merge() === 'all'">all as one</option>
                  </select>
                </dd>
                @if (summary.solids) {
                  <dt><label for="fineness">Rounds</label></dt>
                  <dd>
                    <select
                      id="fineness"
                      class="control"
                      #finenessField
                      (change)="fineness.set($any(finenessField.value))"
                    >
                      @for (each of finenesses; track each.name) {
                        <option [value]="each.name" [selected]="each.name === fineness()">{{ each.label }}</option>
                      }
                    </select>
                    <span class="quiet">can be changed later</span>
                  </dd>
                }
                <dt>Place</dt>
                <dd>
                  <label
                    ><input
                      #centered
                      type="checkbox"
                      [checked]="standing().centered"
                      (change)="stand({ centered: centered.checked })"
                    />
                    in the middle</label
                  >
                  <label
                    ><input
                      #floor
                      type="checkbox"
                      [checked]="standing().onFloor"
                      (change)="stand({ onFloor: floor.checked })"
                    />
                    on the floor</label
                  >
                </dd>
                @if (came().length > 0) {
                  <dt>Came along</dt>
                  <dd class="came">
                    @for (each of came(); track each.key) {
                      <label
                        ><input
                          #taken
                          type="checkbox"
                          [checked]="take()[each.key]"
                          (change)="chooseAlong(each.key, taken.checked)"
                        />
                        {{ each.label }}</label
                      >
                    }
                  </dd>
                }
              </dl>
              @if (summary.found.length > 0 || summary.notes.length > 0) {
                <details [open]="summary.found.length + summary.notes.length < 4">
                  <summary>Found and mended</summary>
                  <ul>
                    @for (line of report(); track line) {
                      <li>{{ line }}</li>
                    }
                    @for (note of summary.notes; track note) {
                      <li>{{ note }}</li>
                    }
                  </ul>
                </details>
              }
            </div>
          </div>
          <div class="dialog-row">
            <button class="control" (click)="importer.stop()">Leave out</button>
            <button class="control primary" (click)="importer.accept(recipe(), standing(), take())">Take it in</button>
          </div>
        }
      </div>
    }
  `,
  styleUrl: './import-dialog.component.scss',
})
export class ImportDialogComponent {
  readonly importer = inject(Importer);
  readonly units = Object.keys(UNITS) as Unit[];
  readonly sides = SIDES;
  readonly turns = TURNS;
  readonly finenesses = (Object.keys(FINENESS) as Fineness[]).map((name) => ({
    name,
    label: `${FINENESS[name]} · within ${TESSELLATIONS[name].chord} mm`,
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
  setLength(side: number, field: HTMLInputElement): void {
    const length = readNumber(field.value, 'mm') ?? 0;
    const present = this.millimetres()[side]!;
    if (length > 0 && Number.isFinite(length) && present > 0) this.scale.update((scale) => (scale * length) / present);
    else field.value = this.shown(present);
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
