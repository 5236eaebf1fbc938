import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import {
  defaultLook,
  LIMITS,
  readProperty,
  writeProperty,
  type Look,
  type Pace,
  type Value,
  type Vector3,
} from '@zippy/core/document';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { ChoiceComponent } from '../ui/choice.component';
import { ColorFieldComponent } from '../ui/color-field.component';
import { NumberFieldComponent } from '../ui/number-field.component';
import { SliderComponent } from '../ui/slider.component';
import { SmallButtonComponent } from '../ui/small-button.component';
import { TextFieldComponent } from '../ui/text-field.component';
import { WordsFieldComponent } from '../ui/words-field.component';
import { ReelFilm } from '../store/reel/reel-film';
import { Studio } from '../store/studio';
import type { FieldSpec } from '../kinds/field';
import { FieldMoves } from './field-moves';
import { FieldUsage } from './field-usage';
import { PaceFieldComponent } from './pace-field.component';
import { ToneCurvesComponent } from './tone-curves.component';

/** Steps of a range beyond which a slider is no help. */
const MOST_STEPS = 2000;

/** One property of the document: its value on this frame, a way to change it, and its key. */
@Component({
  selector: 'zr-property',
  imports: [
    ChoiceComponent,
    ColorFieldComponent,
    MatSlideToggleModule,
    NumberFieldComponent,
    PaceFieldComponent,
    SliderComponent,
    SmallButtonComponent,
    TextFieldComponent,
    ToneCurvesComponent,
    WordsFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '[class.wide]': "['pace', 'curves', 'words'].includes(spec().kind)",
    '[class.keyless]': '!keyed()',
    '[class.vector]': "spec().kind === 'vector'",
  },
  template: `
    <span
      class="label"
      [class.all]="forAll()"
      [class.own]="inShot()"
      [title]="inShot() ? 'Has its own value in this shot' : forAll() ? 'Counts for all shots' : (spec().hint ?? '')"
      >{{ spec().label }}</span
    >
    <div class="value">
      @switch (spec().kind) {
        @case ('number') {
          @if (slides()) {
            <zr-slider
              [label]="spec().label + ', slider'"
              [value]="number() / scale()"
              [step]="spec().step ?? 1"
              [min]="spec().min!"
              [max]="spec().max!"
              (changed)="set($event.value * scale(), $event.gesture)"
            />
          }
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
              [unit]="spec().unit ?? ''"
              [unitShown]="false"
              [step]="spec().step ?? 1"
              [min]="spec().min ?? -1e9"
              [max]="spec().max ?? 1e9"
              (changed)="setAxis(axis, $event.value * scale(), $event.gesture)"
            />
          }
          @if (spec().proportional) {
            <zr-small-button
              [icon]="locked() ? 'locked' : 'unlocked'"
              [label]="'Keep the proportions of ' + spec().label.toLowerCase()"
              [pressed]="locked()"
              (press)="locked.set(!locked())"
            />
          }
        }
        @case ('color') {
          <zr-color
            [label]="spec().label"
            [value]="vector()"
            [differs]="differs()"
            (changed)="set($event.value, $event.gesture)"
          />
        }
        @case ('switch') {
          <mat-slide-toggle
            [aria-label]="spec().label"
            [checked]="value() === true && !differs()"
            hideIcon
            (change)="set($event.checked, '')"
            >{{ differs() ? 'differs' : '' }}</mat-slide-toggle
          >
        }
        @case ('choice') {
          <zr-choice
            [label]="spec().label"
            [options]="spec().options ?? []"
            [value]="chosen()"
            [placeholder]="differs() ? 'differs' : (spec().placeholder ?? '')"
            (chosen)="choose($event)"
          />
        }
        @case ('text') {
          <zr-text
            [label]="spec().label"
            [value]="differs() ? '' : choice()"
            [placeholder]="differs() ? 'differs' : ''"
            (changed)="setText($event)"
          />
        }
        @case ('words') {
          <zr-words [label]="spec().label" [value]="choice()" (typed)="setWords($event)" />
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
      <zr-small-button
        class="key"
        icon="wave"
        [class.moving]="moving()"
        [class.here]="keyHere()"
        [pressed]="keyHere()"
        [label]="(keyHere() ? 'Remove key of ' : moving() ? 'Moves. Set key of ' : 'Set key of ') + spec().label"
        (press)="studio.toggleKeys(paths())"
        (contextmenu)="fieldMoves.open($event, spec().label, paths())"
      />
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
    zr-choice,
    zr-text {
      flex: 1;
      min-width: 0;
    }
    zr-slider {
      flex: 1;
    }
    zr-slider + zr-number {
      flex: none;
      width: 70px;
    }
    .key {
      opacity: 0.45;
      border-radius: 6px;
    }
    .key:hover,
    .key.moving {
      opacity: 1;
    }
    .key.moving {
      color: var(--motion);
      --quiet: var(--motion);
    }
    .key.here {
      --select: var(--motion);
      background: color-mix(in srgb, var(--motion) 28%, transparent);
    }
  `,
})
export class PropertyFieldComponent {
  readonly studio = inject(Studio);
  readonly fieldMoves = inject(FieldMoves);
  private readonly usage = inject(FieldUsage);
  private readonly reel = inject(ReelFilm);
  readonly spec = input.required<FieldSpec>();

  readonly keyed = computed(() => {
    const { kind, still, write, derived } = this.spec();
    if (derived) return false;
    // Of choices only those of a property that keys can hold.
    if (kind === 'choice') return still === false;
    return !still && !write && !['pace', 'text', 'words', 'curves'].includes(kind);
  });
  readonly scale = computed(() => this.spec().scale ?? 1);
  /** The field with those of what else is selected. */
  private readonly all = computed((): FieldSpec[] => [this.spec(), ...(this.spec().also ?? [])]);
  readonly paths = computed(() => this.all().map(({ path }) => path));
  readonly value = computed((): Value | undefined => this.valueOf(this.spec()));
  /** What is selected has different values. */
  readonly differs = computed(() => {
    const own = this.shownOf(this.spec());
    return this.spec().also?.some((other) => !alike(this.shownOf(other), own)) ?? false;
  });
  /** Which of three numbers differ. There may be thousands to compare: it ends where all are known to. */
  readonly axisDiffers = computed(() => {
    const found = [false, false, false];
    const own = this.vector();
    for (const other of this.spec().also ?? []) {
      const value = this.valueOf(other) as Vector3;
      for (const axis of [0, 1, 2]) found[axis] ||= value[axis] !== own[axis];
      if (!found.includes(false)) break;
    }
    return found;
  });
  readonly number = computed(() => (typeof this.value() === 'number' ? (this.value() as number) : 0));
  readonly vector = computed((): Vector3 => (Array.isArray(this.value()) ? (this.value() as Vector3) : [0, 0, 0]));
  readonly choice = computed(() => {
    const present = this.value();
    if (typeof present === 'string') return present;
    const at = readAny(this.studio.document(), this.spec().path);
    return typeof at === 'string' || typeof at === 'number' ? String(at) : '';
  });
  readonly chosen = computed(() => (this.differs() ? null : this.choice()));
  readonly pace = computed(() => (readAny(this.studio.document(), this.spec().path) ?? 'linear') as Pace);
  /** Straight where the look that holds them has just been taken back, and the field is about to go. */
  readonly curves = computed(
    () => (readAny(this.studio.document(), this.spec().path) as Look['curves'] | undefined) ?? defaultLook().curves,
  );
  readonly moving = computed(() => {
    const shot = this.studio.shot();
    const { path } = this.spec();
    if (this.studio.keysOf(path)?.length) return true;
    return !!shot && Object.values(shot.moves).some((move) => move.target === path);
  });
  private readonly playhead = computed(() =>
    this.spec().path.startsWith('reel/') ? this.reel.restFrame() : this.studio.restFrame(),
  );
  readonly keyHere = computed(
    () => this.studio.keysOf(this.spec().path)?.some((key) => key.frame === this.playhead()) ?? false,
  );
  /** While changes are for this shot only, says of what cannot be that it is for all. */
  readonly forAll = computed(
    () =>
      this.studio.thisShotOnly() && !this.keyed() && !this.spec().derived && !/^(shots|reel)\//.test(this.spec().path),
  );
  readonly inShot = computed(() => this.spec().path in (this.studio.shot()?.changes ?? {}));
  /** A slider goes with a range that one step does not cut too fine. */
  readonly slides = computed(() => {
    const { min = -Infinity, max = Infinity, step = 1, exact } = this.spec();
    return !exact && Number.isFinite(max - min) && (max - min) / step <= MOST_STEPS;
  });
  readonly locked = signal(false);

  private shownOf(spec: FieldSpec): unknown {
    return this.valueOf(spec) ?? readAny(this.studio.document(), spec.path);
  }

  private valueOf({ path, read, derived }: FieldSpec): Value | undefined {
    if (read) return read(this.studio.document());
    if (derived) return derived.of(this.studio.placedAtRest());
    if (path.startsWith('reel/')) return this.studio.valueOnReel(path, this.reel.restFrame());
    const state = /\/(position|target|roll|focalLength|focusDistance)$/.test(path)
      ? this.studio.placedAtRest()
      : this.studio.presentAtRest();
    return readProperty(state, path) ?? readProperty(this.studio.document(), path);
  }

  set(value: Value, gesture: string): void {
    this.apply(() => value, gesture || undefined);
  }

  setAxis(axis: number, value: number, gesture: string): void {
    this.apply((present) => {
      const now = (Array.isArray(present) ? present : this.vector()) as Vector3;
      const times = value / now[axis]!;
      if (this.locked() && Number.isFinite(times)) return now.map((v) => v * times) as Vector3;
      return now.map((v, k) => (k === axis ? value : v)) as Vector3;
    }, gesture);
  }

  setText(text: string): void {
    this.write(text.trim().slice(0, LIMITS.nameLength));
  }

  /** Letter by letter: one step of undo for all that is typed in a row. */
  setWords(text: string): void {
    this.write(text.slice(0, LIMITS.titleLetters), `words ${this.spec().path}`);
  }

  choose(value: string): void {
    if (this.keyed()) return this.set(value, '');
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
    this.usage.count(this.spec().path, gesture);
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
    this.usage.count(this.spec().path, gesture);
    const values = new Map(
      this.all().map((spec) => {
        const made = make(this.valueOf(spec));
        return [spec, spec.bring ? spec.bring(made) : made];
      }),
    );
    const { label, still, write } = this.spec();
    if (!still && !write) {
      const state = this.studio.placedAtRest();
      const byPath = Object.fromEntries(
        [...values].map(([{ path, derived }, value]) =>
          derived ? [derived.path, derived.to(state, value)] : [path, value],
        ),
      );
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

/** Whether two values are the same; those of names and curves are compared as they are kept. */
function alike(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object') return false;
  return JSON.stringify(a) === JSON.stringify(b);
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
