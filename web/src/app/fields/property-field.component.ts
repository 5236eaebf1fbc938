import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { hexFromLinear, linearFromHex } from '@zippy/core/optics';
import {
  LIMITS,
  readProperty,
  writeProperty,
  type Look,
  type Pace,
  type Value,
  type Vector3,
} from '@zippy/core/document';
import { IconComponent } from '../shell/icon.component';
import { Studio } from '../state/studio';
import type { FieldSpec } from './field';
import { NumberFieldComponent } from './number-field.component';
import { PaceFieldComponent } from './pace-field.component';
import { ToneCurvesComponent } from './tone-curves.component';

/** One property of the document: its value on this frame, a way to change it, and its key. */
@Component({
  selector: 'zr-property',
  imports: [NumberFieldComponent, PaceFieldComponent, ToneCurvesComponent, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '[class.wide]': "spec().kind === 'pace' || spec().kind === 'curves'",
    '[class.keyless]': '!keyed()',
    '[class.vector]': "spec().kind === 'vector'",
  },
  template: `
    <span
      class="label"
      [class.all]="forAll()"
      [class.own]="inShot()"
      [title]="inShot() ? 'Has its own value in this shot' : forAll() ? 'Counts for all shots' : ''"
      >{{ spec().label }}</span
    >
    <div class="value">
      @switch (spec().kind) {
        @case ('number') {
          <zr-number
            [label]="spec().label"
            [value]="number() / scale()"
            [differs]="differs()"
            [unit]="spec().unit ?? ''"
            [step]="spec().step ?? 1"
            [min]="spec().min ?? -1e9"
            [max]="spec().max ?? 1e9"
            (changed)="set($event.value * scale(), $event.gesture)"
          />
        }
        @case ('vector') {
          @for (axis of [0, 1, 2]; track axis) {
            <zr-number
              [label]="spec().label + ' ' + 'XYZ'[axis]"
              [value]="vector()[axis]! / scale()"
              [differs]="axisDiffers()[axis]!"
              [step]="spec().step ?? 1"
              [min]="spec().min ?? -1e9"
              [max]="spec().max ?? 1e9"
              (changed)="setAxis(axis, $event.value * scale(), $event.gesture)"
            />
          }
        }
        @case ('color') {
          <input
            class="swatch"
            type="color"
            [attr.aria-label]="spec().label"
            [value]="hex()"
            (input)="setColor($event)"
            (focus)="begin()"
          />
          <span class="mono quiet">{{ differs() ? 'differs' : hex() }}</span>
        }
        @case ('switch') {
          <button
            class="control switch"
            role="switch"
            [attr.aria-checked]="value() === true && !differs()"
            [attr.aria-label]="spec().label"
            (click)="set(value() !== true, '')"
          >
            {{ differs() ? 'differs' : value() === true ? 'on' : 'off' }}
          </button>
        }
        @case ('choice') {
          <select class="control" [attr.aria-label]="spec().label" (change)="choose($event)">
            @if (differs()) {
              <option disabled selected>differs</option>
            }
            @for (option of spec().options; track option.value) {
              <option [value]="option.value" [selected]="option.value === chosen()">{{ option.label }}</option>
            }
          </select>
        }
        @case ('text') {
          <input
            class="control"
            [attr.aria-label]="spec().label"
            [value]="differs() ? '' : choice()"
            [placeholder]="differs() ? 'differs' : ''"
            (change)="setText($event)"
          />
        }
        @case ('curves') {
          <zr-tone-curves [curves]="curves()" (changed)="setCurves($event.curves, $event.gesture)" />
        }
        @case ('pace') {
          <zr-pace [pace]="pace()" (changed)="setPace($event.pace, $event.gesture)" />
        }
      }
    </div>
    @if (keyed()) {
      <button
        class="key"
        [class.moving]="moving()"
        [class.here]="keyHere()"
        [attr.aria-pressed]="keyHere()"
        [attr.aria-label]="(keyHere() ? 'Remove key of ' : 'Set key of ') + spec().label"
        [title]="
          keyHere()
            ? 'Remove the key at this frame'
            : moving()
              ? 'Moves. Set a key at this frame'
              : 'Set a key at this frame'
        "
        (click)="studio.toggleKeys(paths())"
      >
        <zr-icon name="wave" />
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 86px 1fr 24px;
      align-items: center;
      gap: 6px;
      min-height: 34px;
    }
    :host(.keyless) {
      grid-template-columns: 86px 1fr;
    }
    :host(.vector) {
      grid-template-columns: 66px 1fr 24px;
    }
    :host(.vector.keyless) {
      grid-template-columns: 66px 1fr;
    }
    :host(.vector) .value {
      gap: 2px;
    }
    :host(.wide) {
      grid-template-columns: 1fr;
    }
    :host(.wide) .value {
      display: grid;
    }
    input.control {
      width: 100%;
      min-width: 0;
      box-sizing: border-box;
    }
    .label {
      color: var(--quiet);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .label.all::after {
      content: ' · all';
      font-size: 10px;
    }
    .label.own {
      color: var(--motion);
    }
    .value {
      display: flex;
      gap: 4px;
      align-items: center;
      min-width: 0;
    }
    zr-number,
    select {
      flex: 1;
      min-width: 0;
    }
    select {
      padding-inline: 6px 0;
    }
    .value .mono {
      min-width: 0;
      overflow: hidden;
      font-size: 11px;
    }
    .swatch {
      flex: none;
      width: 44px;
      height: 30px;
      padding: 0;
      border: 1px solid var(--line);
      border-radius: 6px;
      background: none;
    }
    .switch[aria-checked='true'] {
      background: color-mix(in srgb, var(--select) 30%, var(--raised));
    }
    .key {
      width: 24px;
      height: 32px;
      padding: 4px;
      border: 0;
      border-radius: 6px;
      background: none;
      color: var(--line);
      cursor: pointer;
    }
    .key:hover {
      color: var(--quiet);
    }
    .key.moving {
      color: var(--motion);
    }
    .key.here {
      background: color-mix(in srgb, var(--motion) 28%, transparent);
    }
  `,
})
export class PropertyFieldComponent {
  readonly studio = inject(Studio);
  readonly spec = input.required<FieldSpec>();

  readonly keyed = computed(() => !this.spec().still && !['choice', 'pace', 'text'].includes(this.spec().kind));
  readonly scale = computed(() => this.spec().scale ?? 1);
  /** The field with those of what else is selected. */
  private readonly all = computed((): FieldSpec[] => [this.spec(), ...(this.spec().also ?? [])]);
  readonly paths = computed(() => this.all().map(({ path }) => path));
  readonly value = computed((): Value | undefined => this.valueAt(this.spec().path));
  private readonly others = computed((): unknown[] =>
    this.paths()
      .slice(1)
      .map((path) => this.valueAt(path) ?? readAny(this.studio.document(), path)),
  );
  /** What is selected has different values. */
  readonly differs = computed(() => {
    if (this.others().length === 0) return false;
    const own = JSON.stringify(this.value() ?? readAny(this.studio.document(), this.spec().path));
    return this.others().some((other) => JSON.stringify(other) !== own);
  });
  readonly axisDiffers = computed(() =>
    [0, 1, 2].map((axis) => this.others().some((other) => (other as number[])[axis] !== this.vector()[axis])),
  );
  readonly number = computed(() => (typeof this.value() === 'number' ? (this.value() as number) : 0));
  readonly vector = computed((): Vector3 => (Array.isArray(this.value()) ? (this.value() as Vector3) : [0, 0, 0]));
  readonly hex = computed(() => hexFromLinear(this.vector()));
  readonly choice = computed(() => {
    const at = readAny(this.studio.document(), this.spec().path);
    return typeof at === 'string' || typeof at === 'number' ? String(at) : '';
  });
  readonly chosen = computed(() => (this.differs() ? null : this.choice()));
  readonly pace = computed(() => (readAny(this.studio.document(), this.spec().path) ?? 'linear') as Pace);
  readonly curves = computed(() => readAny(this.studio.document(), this.spec().path) as Look['curves']);
  readonly moving = computed(() => {
    const shot = this.studio.shot();
    const { path } = this.spec();
    return !!shot && (path in shot.tracks || Object.values(shot.moves).some((move) => move.target === path));
  });
  readonly keyHere = computed(
    () => !!this.studio.shot()?.tracks[this.spec().path]?.some((key) => key.frame === this.studio.frame()),
  );
  /** While changes are for this shot only, says of what cannot be that it is for all. */
  readonly forAll = computed(
    () => this.studio.state().thisShotOnly && !this.keyed() && !this.spec().path.startsWith('shots/'),
  );
  readonly inShot = computed(() => this.spec().path in (this.studio.shot()?.changes ?? {}));
  private gesture = '';

  private valueAt(path: string): Value | undefined {
    const state = /\/(position|target)$/.test(path) ? this.studio.placed() : this.studio.present();
    return readProperty(state, path) ?? readProperty(this.studio.document(), path);
  }

  begin(): void {
    this.gesture = this.studio.newGesture();
  }

  set(value: Value, gesture: string): void {
    this.apply(() => value, gesture || undefined);
  }

  setAxis(axis: number, value: number, gesture: string): void {
    this.apply((present) => {
      const next = [...(Array.isArray(present) ? present : this.vector())] as Vector3;
      next[axis] = value;
      return next;
    }, gesture);
  }

  setColor(event: Event): void {
    const color = linearFromHex((event.target as HTMLInputElement).value);
    if (color) this.apply(() => color, this.gesture);
  }

  setText(event: Event): void {
    this.write((event.target as HTMLInputElement).value.trim().slice(0, LIMITS.nameLength));
  }

  choose(event: Event): void {
    const { value } = event.target as HTMLSelectElement;
    this.write(value === '' ? null : value);
  }

  setCurves(curves: Look['curves'], gesture: string): void {
    this.write(curves, gesture);
  }

  setPace(pace: Pace, gesture: string): void {
    this.write(pace, gesture);
  }

  /** Sets what is no moving value: names, choices, paces. */
  private write(value: unknown, gesture?: string): void {
    this.studio.edit(
      this.spec().label,
      (draft) => {
        for (const { path, write } of this.all()) {
          if (write) write(draft, value);
          else writeAny(draft, path, value);
        }
      },
      gesture,
    );
  }

  /** Sets the value of all that is selected, made of the one that each has. */
  private apply(make: (present: Value | undefined) => Value, gesture?: string): void {
    const values = new Map(
      this.all().map((spec) => {
        const made = make(this.valueAt(spec.path));
        return [spec, spec.bring ? spec.bring(made) : made];
      }),
    );
    const { label, still, write } = this.spec();
    if (!still && !write) {
      const byPath = Object.fromEntries([...values].map(([{ path }, value]) => [path, value]));
      return this.studio.setProperties(label, byPath, gesture);
    }
    this.studio.edit(
      label,
      (draft) => {
        for (const [spec, value] of values) {
          if (spec.write) spec.write(draft, value);
          else writeProperty(draft, spec.path, value);
        }
      },
      gesture,
    );
  }
}

function writeAny(root: object, path: string, value: unknown): void {
  const steps = path.split('/');
  let at = root as Record<string, unknown>;
  for (const step of steps.slice(0, -1)) at = at[step] as Record<string, unknown>;
  at[steps.at(-1)!] = value;
}

function readAny(root: object, path: string): unknown {
  let at: unknown = root;
  for (const step of path.split('/')) at = (at as Record<string, unknown> | undefined)?.[step];
  return at;
}
