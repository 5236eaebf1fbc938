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
import type { FieldSpec } from './field-specs';
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
          <span class="mono quiet">{{ hex() }}</span>
        }
        @case ('switch') {
          <button
            class="control switch"
            role="switch"
            [attr.aria-checked]="value() === true"
            [attr.aria-label]="spec().label"
            (click)="set(value() !== true, '')"
          >
            {{ value() === true ? 'on' : 'off' }}
          </button>
        }
        @case ('choice') {
          <select class="control" [attr.aria-label]="spec().label" (change)="choose($event)">
            @for (option of spec().options; track option.value) {
              <option [value]="option.value" [selected]="option.value === choice()">{{ option.label }}</option>
            }
          </select>
        }
        @case ('text') {
          <input class="control" [attr.aria-label]="spec().label" [value]="choice()" (change)="setText($event)" />
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
        (click)="studio.toggleKey(spec().path)"
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
  readonly value = computed((): Value | undefined => {
    const { path } = this.spec();
    const state = /\/(position|target)$/.test(path) ? this.studio.placed() : this.studio.present();
    return readProperty(state, path) ?? readProperty(this.studio.document(), path);
  });
  readonly number = computed(() => (typeof this.value() === 'number' ? (this.value() as number) : 0));
  readonly vector = computed((): Vector3 => (Array.isArray(this.value()) ? (this.value() as Vector3) : [0, 0, 0]));
  readonly hex = computed(() => hexFromLinear(this.vector()));
  readonly choice = computed(() => {
    const at = readAny(this.studio.document(), this.spec().path);
    return typeof at === 'string' || typeof at === 'number' ? String(at) : '';
  });
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

  begin(): void {
    this.gesture = this.studio.newGesture();
  }

  set(value: Value, gesture: string): void {
    this.apply(value, gesture || undefined);
  }

  setAxis(axis: number, value: number, gesture: string): void {
    const next = [...this.vector()] as Vector3;
    next[axis] = value;
    this.apply(next, gesture);
  }

  setColor(event: Event): void {
    const color = linearFromHex((event.target as HTMLInputElement).value);
    if (color) this.apply(color, this.gesture);
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
    const steps = this.spec().path.split('/');
    const { label, write } = this.spec();
    this.studio.edit(
      label,
      (draft) => {
        if (write) return write(draft, value);
        let at = draft as unknown as Record<string, unknown>;
        for (const step of steps.slice(0, -1)) at = at[step] as Record<string, unknown>;
        at[steps.at(-1)!] = value;
      },
      gesture,
    );
  }

  private apply(given: Value, gesture?: string): void {
    const { path, label, still, bring, write } = this.spec();
    const value = bring ? bring(given) : given;
    if (write) this.studio.edit(label, (draft) => write(draft, value), gesture);
    else if (still) this.studio.edit(label, (draft) => writeProperty(draft, path, value), gesture);
    else this.studio.setProperty(label, path, value, gesture);
  }
}

function readAny(root: object, path: string): unknown {
  let at: unknown = root;
  for (const step of path.split('/')) at = (at as Record<string, unknown> | undefined)?.[step];
  return at;
}
