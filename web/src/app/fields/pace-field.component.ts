import { ChoiceComponent } from '../ui/choice.component';
import { NumberFieldComponent } from '../ui/number-field.component';
import { newGesture } from '../ui/gesture';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { line, range, scaleLinear } from 'd3';
import { defaultsOf, nearest, PACES, type Pace, type PaceKind, type Property, type Table } from '@zippy/core/document';
import { paced } from '@zippy/core/motion';
import { ARROWS } from './arrows';

type Curve = [number, number, number, number];

/** What every pace is called, the usual ones first. */
const NAMES: Record<Extract<Pace, string> | PaceKind | 'curve', string> = {
  'linear': 'Even',
  'ease': 'Eased',
  'ease-in': 'Eased in',
  'ease-out': 'Eased out',
  'soft': 'Softly eased',
  'soft-in': 'Softly eased in',
  'soft-out': 'Softly eased out',
  'strong': 'Strongly eased',
  'strong-in': 'Strongly eased in',
  'strong-out': 'Strongly eased out',
  'held': 'Held',
  'stepped': 'In steps',
  'overshoot': 'Overshoots',
  'spring': 'On a spring',
  'bounce': 'Bounces',
  'curve': 'Own curve',
}; // prettier-ignore
const LABELS: Record<PaceKind, Record<string, string>> = {
  stepped: { count: 'Steps', moving: 'Moving part', swing: 'Swing' },
  overshoot: { way: 'At', amount: 'By' },
  spring: { stiffness: 'Swings', damping: 'Damping' },
  bounce: { count: 'Bounces', height: 'Height kept' },
};
const WAYS = [
  { value: 'after', label: 'The end' },
  { value: 'before', label: 'The beginning' },
  { value: 'both', label: 'Both' },
];
const isNumbered = (name: string): name is PaceKind => Object.hasOwn(PACES, name);
/** Curves that look like the named paces, to begin an own one from. */
const LIKE: Record<string, Curve> = {
  'linear': [0.25, 0.25, 0.75, 0.75],
  'ease': [0.33, 0, 0.67, 1],
  'ease-in': [0.33, 0, 0.67, 0.33],
  'ease-out': [0.33, 0.67, 0.67, 1],
  'soft': [0.3, 0.1, 0.7, 0.9],
  'soft-in': [0.33, 0.1, 0.67, 0.5],
  'soft-out': [0.33, 0.5, 0.67, 0.9],
  'strong': [0.7, 0, 0.3, 1],
  'strong-in': [0.7, 0, 0.85, 0.4],
  'strong-out': [0.15, 0.6, 0.3, 1],
  'held': [0.9, 0, 1, 0.1],
}; // prettier-ignore
const WIDTH = 220;
const HEIGHT = 150;
const STEP = 0.02;
/** Where a pace is drawn. */
const SAMPLES = range(0, 1.00001, 1 / 240).map((t) => Math.min(1, t));

/** How a value travels: a named pace, or a curve with two handles. */
@Component({
  selector: 'zr-pace',
  imports: [ChoiceComponent, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-choice label="Pace" [options]="paces" [value]="name()" (chosen)="choose($event)" />
    @for (each of numbers(); track each.name) {
      <div class="number">
        <span class="quiet">{{ each.label }}</span>
        @if (each.property.kind === 'choice') {
          <zr-choice
            [label]="each.label"
            [options]="ways"
            [value]="'' + each.value"
            (chosen)="set(each.name, $event)"
          />
        } @else {
          <zr-number
            [label]="each.label"
            [value]="+each.value / each.property.scale"
            [unit]="each.property.unit"
            [step]="each.property.step"
            [min]="each.property.min / each.property.scale"
            [max]="each.property.max / each.property.scale"
            (changed)="set(each.name, bring(each.property, $event.value), $event.gesture)"
          />
        }
      </div>
    }
    <svg
      viewBox="0 0 220 150"
      role="group"
      aria-label="Curve of the pace"
      #drawing
      (pointermove)="drag($event, drawing)"
      (pointerup)="held = null"
      (pointercancel)="held = null"
    >
      <path class="frame" [attr.d]="frame" />
      <path class="speed" [attr.d]="speed()" />
      <path class="curve" [attr.d]="path()" />
      @if (curve(); as handles) {
        @for (k of [0, 1]; track k) {
          <line [attr.x1]="x(k)" [attr.y1]="y(k)" [attr.x2]="x(handles[2 * k]!)" [attr.y2]="y(handles[2 * k + 1]!)" />
          <circle
            r="6"
            tabindex="0"
            role="slider"
            [attr.aria-label]="k === 0 ? 'Leaving handle' : 'Arriving handle'"
            [attr.aria-valuenow]="handles[2 * k + 1]"
            [attr.aria-valuetext]="
              handles[2 * k]!.toFixed(2) + ' of the time, ' + handles[2 * k + 1]!.toFixed(2) + ' of the way'
            "
            [attr.cx]="x(handles[2 * k]!)"
            [attr.cy]="y(handles[2 * k + 1]!)"
            (pointerdown)="press($event, k, drawing)"
            (keydown)="nudge($event, k)"
          />
        }
      }
    </svg>
  `,
  styleUrl: './curve.scss',
  styles: `
    :host {
      --curve: var(--motion);
      --point: var(--motion);
    }
    .number {
      display: grid;
      grid-template-columns: 86px 1fr;
      gap: 6px;
      align-items: center;
      min-height: 34px;
    }
    .speed {
      fill: none;
      stroke: var(--quiet);
      stroke-dasharray: 2 3;
    }
  `,
})
export class PaceFieldComponent {
  readonly pace = input.required<Pace>();
  readonly changed = output<{ pace: Pace; gesture: string }>();
  readonly paces = Object.entries(NAMES).map(([value, label]) => ({ value, label }));
  readonly ways = WAYS;
  readonly x = scaleLinear([0, 1], [14, WIDTH - 14]);
  /** Handles may pull the value beyond both ends. */
  readonly y = scaleLinear([-0.4, 1.4], [HEIGHT - 6, 6]);
  readonly frame = `M${this.x(0)} ${this.y(0)}H${this.x(1)}V${this.y(1)}H${this.x(0)}Z`;
  readonly curve = computed((): Curve | null => {
    const pace = this.pace();
    return typeof pace === 'object' && 'curve' in pace ? pace.curve : null;
  });
  readonly name = computed(() => {
    const pace = this.pace();
    return typeof pace === 'object' ? Object.keys(pace)[0]! : pace;
  });
  readonly path = computed(() => line<number>(this.x, (t) => this.y(paced(this.pace(), t)))(SAMPLES));
  /** How fast it is, of the fastest of its time, as a fine line. */
  readonly speed = computed(() => {
    const pace = this.pace();
    const speeds = SAMPLES.slice(1).map((t, k) => Math.abs(paced(pace, t) - paced(pace, SAMPLES[k]!)));
    const most = Math.max(1e-9, ...speeds);
    return line<number>(
      (_, k) => this.x((k + 0.5) / speeds.length),
      (v) => this.y(v / most),
    )(speeds);
  });
  /** The numbers of a pace that has some. */
  readonly numbers = computed(() => {
    const [name, pace] = [this.name(), this.pace()];
    if (!isNumbered(name) || typeof pace !== 'object') return [];
    const values = (pace as unknown as Record<string, Record<string, number | string>>)[name]!;
    return Object.entries(PACES[name] as Table).map(([key, property]) => ({
      name: key,
      property,
      label: LABELS[name][key]!,
      value: values[key]!,
    }));
  });
  held: { handle: number; gesture: string } | null = null;

  choose(value: string): void {
    const pace =
      value === 'curve'
        ? { curve: this.curve() ?? LIKE[this.name()] ?? LIKE['ease']! }
        : isNumbered(value)
          ? { [value]: defaultsOf(PACES[value] as Table) }
          : value;
    this.changed.emit({ pace: pace as Pace, gesture: newGesture() });
  }

  bring = (property: Property, shown: number): number => nearest(property, shown * property.scale) as number;

  set(key: string, value: number | string, gesture = newGesture()): void {
    const [name, pace] = [this.name(), this.pace() as unknown as Record<string, object>];
    this.changed.emit({ pace: { [name]: { ...pace[name], [key]: value } } as unknown as Pace, gesture });
  }

  press(event: PointerEvent, handle: number, drawing: Element): void {
    this.held = { handle, gesture: newGesture() };
    drawing.setPointerCapture(event.pointerId);
  }

  drag(event: PointerEvent, drawing: Element): void {
    if (!this.held) return;
    const box = drawing.getBoundingClientRect();
    const at = (event.clientX - box.left) * (WIDTH / box.width);
    const up = (event.clientY - box.top) * (HEIGHT / box.height);
    this.put(this.held.handle, this.x.invert(at), this.y.invert(up), this.held.gesture);
  }

  nudge(event: KeyboardEvent, handle: number): void {
    const curve = this.curve();
    const by = ARROWS[event.key];
    if (!curve || !by) return;
    event.preventDefault();
    event.stopPropagation();
    const [x, y] = [curve[2 * handle]!, curve[2 * handle + 1]!];
    this.put(handle, x + by[0] * STEP, y + by[1] * STEP, newGesture());
  }

  private put(handle: number, x: number, y: number, gesture: string): void {
    const curve: Curve = [...(this.curve() ?? LIKE['ease']!)];
    // A handle outside the time would send the value back and forth at once.
    curve[2 * handle] = Math.min(1, Math.max(0, round(x)));
    curve[2 * handle + 1] = Math.min(1.4, Math.max(-0.4, round(y)));
    this.changed.emit({ pace: { curve }, gesture });
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
