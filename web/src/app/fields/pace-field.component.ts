import { ChoiceComponent } from '../ui/choice.component';
import { newGesture } from '../ui/gesture';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { line, range, scaleLinear } from 'd3';
import type { Pace } from '@zippy/core/document';
import { paced } from '@zippy/core/motion';
import { ARROWS } from './arrows';

type Curve = [number, number, number, number];

const PACES: { value: string; label: string }[] = [
  { value: 'linear', label: 'Even' },
  { value: 'ease', label: 'Eased' },
  { value: 'ease-in', label: 'Eased in' },
  { value: 'ease-out', label: 'Eased out' },
  { value: 'held', label: 'Held' },
  { value: 'curve', label: 'Own curve' },
];
/** Curves that look like the named paces, to begin an own one from. */
const LIKE: Record<string, Curve> = {
  'linear': [0.25, 0.25, 0.75, 0.75],
  'ease': [0.33, 0, 0.67, 1],
  'ease-in': [0.33, 0, 0.67, 0.33],
  'ease-out': [0.33, 0.67, 0.67, 1],
  'held': [0.9, 0, 1, 0.1],
}; // prettier-ignore
const WIDTH = 220;
const HEIGHT = 150;
const STEP = 0.02;

/** How a value travels: a named pace, or a curve with two handles. */
@Component({
  selector: 'zr-pace',
  imports: [ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-choice label="Pace" [options]="paces" [value]="name()" (chosen)="choose($event)" />
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
  `,
})
export class PaceFieldComponent {
  readonly pace = input.required<Pace>();
  readonly changed = output<{ pace: Pace; gesture: string }>();
  readonly paces = PACES;
  readonly x = scaleLinear([0, 1], [14, WIDTH - 14]);
  /** Handles may pull the value beyond both ends. */
  readonly y = scaleLinear([-0.4, 1.4], [HEIGHT - 6, 6]);
  readonly frame = `M${this.x(0)} ${this.y(0)}H${this.x(1)}V${this.y(1)}H${this.x(0)}Z`;
  readonly curve = computed((): Curve | null => {
    const pace = this.pace();
    return typeof pace === 'object' ? pace.curve : null;
  });
  readonly name = computed(() => {
    const pace = this.pace();
    return typeof pace === 'object' ? 'curve' : pace;
  });
  readonly path = computed(() =>
    line<number>(this.x, (t) => this.y(paced(this.pace(), t)))(range(0, 1.0001, 1 / 60).map((t) => Math.min(1, t))),
  );
  held: { handle: number; gesture: string } | null = null;

  choose(value: string): void {
    const pace = value === 'curve' ? { curve: this.curve() ?? LIKE[this.name()]! } : (value as Pace);
    this.changed.emit({ pace, gesture: newGesture() });
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
