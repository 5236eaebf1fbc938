import { newGesture } from './gesture';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { FRAME_RATE, LENGTH_UNIT, MILLIMETRES } from './project-units';
import { readNumber } from './arithmetic';

/** A change of a number; changes of one drag carry the same gesture. */
export interface NumberChange {
  value: number;
  gesture: string;
}

/** What is nearer to nothing is shown as nothing. */
const LEAST = 1e-4;

/**
 * A number with its unit: type it (arithmetic allowed), step it with the arrows, or drag sideways over it. Lengths are given and told in
 * millimetres, and shown in the unit of the project.
 */
@Component({
  selector: 'zr-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #field
      class="mono"
      inputmode="decimal"
      autocomplete="off"
      spellcheck="false"
      [attr.aria-label]="label()"
      [disabled]="disabled()"
      [placeholder]="differs() ? 'differs' : ''"
      (keydown)="key($event)"
      (change)="typed()"
      (blur)="show()"
      (focus)="field.select()"
      (pointerdown)="press($event)"
      (pointermove)="drag($event)"
      (pointerup)="release()"
      (pointercancel)="release()"
    />
    @if (unitShown() && shownUnit()) {
      <span class="unit">{{ shownUnit() }}</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      height: 32px;
      min-width: 0;
      border-radius: 6px;
      background: var(--raised);
      border: 1px solid transparent;
    }
    :host:hover {
      border-color: var(--line);
    }
    :host:focus-within {
      border-color: var(--select);
    }
    input {
      flex: 1;
      min-width: 0;
      width: 100%;
      padding: 0 0 0 6px;
      border: 0;
      background: none;
      color: var(--text);
      font-size: 12px;
      cursor: ew-resize;
      outline: none;
    }
    input:focus {
      cursor: text;
    }
    input::placeholder {
      color: var(--quiet);
      font-style: italic;
    }
    .unit {
      padding: 0 7px 0 3px;
      color: var(--quiet);
      font-size: 11px;
    }
  `,
})
export class NumberFieldComponent {
  private readonly frameRate = inject(FRAME_RATE);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  readonly value = input.required<number>();
  readonly label = input.required<string>();
  readonly unit = input('');
  /** Where there is no room, the unit is only reckoned with. */
  readonly unitShown = input(true);
  readonly step = input(1);
  readonly min = input(-1e9);
  readonly max = input(1e9);
  readonly disabled = input(false);
  /** The value is that of one of several, which differ: it is not shown. */
  readonly differs = input(false);
  readonly changed = output<NumberChange>();

  private readonly lengthUnit = inject(LENGTH_UNIT);
  readonly shownUnit = computed(() => (this.unit() === 'mm' ? this.lengthUnit() : this.unit()));
  /** What is shown times this is the value. */
  private readonly times = computed(() => (this.unit() === 'mm' ? MILLIMETRES[this.lengthUnit()] : 1));
  private readonly text = computed(() => (this.differs() ? '' : this.shown()));
  private readonly shown = computed(() => {
    const shown = this.value() / this.times();
    const step = this.step() / this.times();
    // Large numbers have no room, and no need, for what is behind the point.
    const digits = Math.abs(shown) >= 10_000 ? 0 : step < 0.01 ? 4 : step < 0.1 ? 3 : step < 1 ? 2 : 1;
    const rounded = Number(shown.toFixed(digits));
    // Of a lamp for something tiny, what the step would round away is all there is.
    const lost = Math.abs(shown) > LEAST && Math.abs(rounded - shown) > 0.05 * Math.abs(shown);
    return String(lost ? Number(shown.toPrecision(2)) : rounded);
  });
  private start: { x: number; value: number; gesture: string; moved: boolean } | null = null;

  constructor() {
    effect(() => {
      this.text();
      this.show();
    });
  }

  show(): void {
    const { nativeElement } = this.field();
    if (document.activeElement !== nativeElement || this.start) nativeElement.value = this.text();
  }

  typed(): void {
    const value = readNumber(this.field().nativeElement.value, this.shownUnit(), this.frameRate());
    if (value !== null) this.send(value * this.times(), newGesture());
    this.field().nativeElement.value = this.text();
  }

  key(event: KeyboardEvent): void {
    // Escape also closes what the field is in.
    if (event.key !== 'Escape') event.stopPropagation();
    const by = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (by !== 0) {
      event.preventDefault();
      this.send(this.value() + by * this.step() * (event.shiftKey ? 10 : 1), newGesture());
      queueMicrotask(() => (this.field().nativeElement.value = this.text()));
    } else if (event.key === 'Enter') {
      this.field().nativeElement.blur();
    } else if (event.key === 'Escape') {
      this.field().nativeElement.value = this.text();
      this.field().nativeElement.blur();
    }
  }

  press(event: PointerEvent): void {
    if (this.disabled() || document.activeElement === this.field().nativeElement) return;
    this.start = { x: event.clientX, value: this.value(), gesture: newGesture(), moved: false };
    this.field().nativeElement.setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  drag(event: PointerEvent): void {
    if (!this.start) return;
    const by = Math.round((event.clientX - this.start.x) / 3);
    if (by === 0 && !this.start.moved) return;
    this.start.moved = true;
    this.send(this.start.value + by * this.step() * (event.shiftKey ? 10 : 1), this.start.gesture);
  }

  release(): void {
    const clicked = this.start && !this.start.moved;
    this.start = null;
    if (clicked) this.field().nativeElement.focus();
  }

  private send(value: number, gesture: string): void {
    const inside = Math.min(this.max(), Math.max(this.min(), value));
    if (inside !== this.value() || this.differs()) this.changed.emit({ value: inside, gesture });
  }
}
