import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { extent, line, scaleLinear, type ScaleLinear } from 'd3';
import { propertyAt, type Key, type Pace, type Value } from '@zippy/core/document';
import { sampleProperty } from '@zippy/core/motion';
import { Studio } from '../store/studio';
import { newGesture } from '../ui/gesture';
import type { Lane } from './lanes';

/** Pixels. */
const HEIGHT = 150;
const PAD = 14;
/** Points of a curve that are drawn for one pixel. */
const PER_PIXEL = 1;
const AXES = ['X', 'Y', 'Z'];

/** A lane's values over time, as lines that keys stand on; or how fast they change. */
@Component({
  selector: 'zr-lane-curve',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  // The strip holds the pointer while a key is dragged.
  host: { '(document:pointerup)': 'release()', '(document:pointercancel)': 'release()' },
  template: `
    <div class="side">
      <span class="mono quiet">{{ top() }}</span>
      <button matButton class="kind" [attr.aria-pressed]="speed()" (click)="speed.set(!speed())">
        {{ speed() ? 'speed' : 'value' }}
      </button>
      <span class="mono quiet">{{ bottom() }}</span>
    </div>
    <svg [attr.height]="height" [attr.width]="width()" (pointermove)="dragTo($event)">
      @for (tick of ticks(); track tick) {
        <line class="grid" x1="0" [attr.x2]="width()" [attr.y1]="y()(tick)" [attr.y2]="y()(tick)" />
      }
      @for (curve of curves(); track curve.axis) {
        <path [class]="'curve axis' + (curve.axis ?? 0)" [attr.d]="curve.d" />
        @if (curve.axis !== null) {
          <text [class]="'axis' + curve.axis" [attr.x]="6 + 12 * curve.axis" y="12">{{ 'XYZ'[curve.axis] }}</text>
        }
      }
      @if (!speed()) {
        @for (handle of handles(); track handle.id) {
          <line
            class="arm"
            [attr.x1]="handle.fromX"
            [attr.y1]="handle.fromY"
            [attr.x2]="handle.x"
            [attr.y2]="handle.y"
          />
          <circle
            class="handle"
            r="4"
            tabindex="0"
            role="slider"
            [attr.aria-label]="handle.label"
            [attr.aria-valuenow]="handle.value"
            [attr.cx]="handle.x"
            [attr.cy]="handle.y"
            (pointerdown)="pressHandle($event, handle.key, handle.end)"
            (keydown)="nudgeHandle($event, handle.key, handle.end)"
          />
        }
        @for (point of points(); track point.id) {
          <circle
            class="point"
            [attr.r]="radius()"
            tabindex="0"
            role="button"
            [class.picked]="marked().has(point.mark)"
            [attr.aria-label]="point.label"
            [attr.cx]="point.x"
            [attr.cy]="point.y"
            (pointerdown)="press($event, point)"
            (keydown)="nudge($event, point)"
          />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 176px 1fr;
      border-bottom: 1px solid var(--line);
      --tone: var(--motion);
    }
    :host-context(.light) {
      --tone: var(--light);
    }
    .side {
      display: grid;
      grid-template-rows: auto 1fr auto;
      justify-items: end;
      align-items: center;
      padding: 6px 8px;
      font-size: 10px;
    }
    .kind {
      height: 24px;
      padding: 0 8px;
      font-size: 11px;
    }
    svg {
      display: block;
      overflow: hidden;
      background: color-mix(in srgb, var(--raised) 40%, transparent);
    }
    .grid {
      stroke: var(--line);
    }
    .curve {
      fill: none;
      stroke: var(--tone);
      stroke-width: 1.5;
      pointer-events: none;
    }
    .axis1 {
      stroke-dasharray: 6 3;
    }
    .axis2 {
      stroke-dasharray: 2 3;
    }
    text {
      fill: var(--quiet);
      font: 10px var(--font);
      stroke: none;
    }
    .arm {
      stroke: var(--quiet);
    }
    .handle {
      fill: var(--panel);
      stroke: var(--tone);
      cursor: move;
    }
    .point {
      fill: var(--text);
      stroke: var(--panel);
      cursor: move;
    }
    .point.picked {
      fill: var(--select);
    }
  `,
})
export class LaneCurveComponent {
  private readonly studio = inject(Studio);
  readonly lane = input.required<Lane>();
  readonly x = input.required<ScaleLinear<number, number>>();
  readonly width = input.required<number>();
  readonly marked = input.required<ReadonlySet<string>>();
  /** A key is held; `perPixel` is what it rises by for a pixel, in the document's unit. */
  readonly pressKey = output<{ event: PointerEvent; frame: number; axis: number | null; perPixel: number }>();
  readonly raise = output<{ by: number; axis: number | null; gesture: string }>();
  readonly paced = output<{ frame: number; pace: Pace; gesture: string }>();
  readonly speed = signal(false);
  readonly height = HEIGHT;

  private readonly samples = computed(() => {
    const shot = this.studio.shot();
    const [from, to] = this.x().domain() as [number, number];
    if (!shot) return { frames: [], values: [] };
    const sample = sampleProperty(this.studio.document(), shot, this.lane().path);
    // No more points than there are pixels, and all frames where these are fewer.
    const step = Math.max(1 / 4, (to - from) / (this.width() * PER_PIXEL));
    const count = Math.max(2, Math.ceil((to - from) / step) + 1);
    const frames = Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1));
    return { frames, values: frames.map(sample) };
  });
  private readonly axes = computed((): (number | null)[] =>
    Array.isArray(this.samples().values[0]) ? [0, 1, 2] : [null],
  );
  private readonly scale = computed(() => propertyAt(this.lane().path)?.scale ?? 1);
  private readonly unit = computed(() => propertyAt(this.lane().path)?.unit ?? '');

  /** What is drawn of each axis, in what is shown. */
  private readonly rows = computed(() => {
    const { frames, values } = this.samples();
    const rate = this.studio.frameRate();
    return this.axes().map((axis) => {
      const shown = values.map((value) => numberOf(value, axis) / this.scale());
      if (!this.speed()) return { axis, shown };
      const speeds = shown.map((_, k) => {
        const next = Math.min(shown.length - 1, k + 1);
        const before = next === k ? k - 1 : k;
        return (Math.abs(shown[next]! - shown[before]!) / Math.max(1e-9, frames[next]! - frames[before]!)) * rate;
      });
      return { axis, shown: speeds };
    });
  });
  readonly y = computed(() => {
    const held = this.held();
    if (held) return scaleLinear(held, [HEIGHT - PAD, PAD]);
    const [low = 0, high = 1] = extent(this.rows().flatMap(({ shown }) => shown));
    const room = Math.max(1e-9, high - low) * 0.08 || 0.5;
    const flat = high - low < 1e-9;
    return scaleLinear(flat ? [low - 1, high + 1] : [low - room, high + room], [HEIGHT - PAD, PAD]);
  });
  readonly ticks = computed(() => this.y().ticks(4));
  readonly top = computed(() => this.say(this.y().domain()[1]!));
  readonly bottom = computed(() => this.say(this.y().domain()[0]!));
  readonly curves = computed(() => {
    const { frames } = this.samples();
    const [x, y] = [this.x(), this.y()];
    return this.rows().map(({ axis, shown }) => ({ axis, d: line<number>((_, k) => x(frames[k]!), y)(shown) ?? '' }));
  });
  readonly points = computed(() => {
    const { keys, track, name, property } = this.lane();
    const [x, y] = [this.x(), this.y()];
    const [from, to] = x.domain() as [number, number];
    return keys
      .filter(({ frame }) => frame >= from - 1 && frame <= to + 1)
      .flatMap((key) =>
        this.axes().map((axis) => ({
          id: `${key.frame}/${axis}`,
          key,
          axis,
          mark: `${track}@${key.frame}`,
          label: `Value of ${name} ${property}${axis === null ? '' : ` ${AXES[axis]}`} at frame ${key.frame}`,
          x: x(key.frame),
          y: y(numberOf(key.value, axis) / this.scale()),
        })),
      );
  });
  /** Smaller where they stand close. */
  readonly radius = computed(() => {
    const points = this.points().length / this.axes().length;
    return points * 11 > this.width() ? 2.5 : 5;
  });
  /** Of picked keys that travel by a curve of their own. */
  readonly handles = computed(() => {
    const { keys, track } = this.lane();
    const [x, y] = [this.x(), this.y()];
    return keys.flatMap((key, k) => {
      const next = keys[k + 1];
      const curve = typeof key.pace === 'object' && 'curve' in key.pace ? key.pace.curve : null;
      if (
        !next ||
        !curve ||
        !(this.marked().has(`${track}@${key.frame}`) || this.marked().has(`${track}@${next.frame}`))
      )
        return [];
      const axis = this.axes()[0]!;
      const at = (share: number) => x(key.frame + (next.frame - key.frame) * share);
      const [v0, v1] = [key, next].map(({ value }) => numberOf(value, axis) / this.scale()) as [number, number];
      return ([0, 1] as const).map((end) => ({
        id: `${key.frame}/${end}`,
        key,
        end,
        label: `${end === 0 ? 'Leaving' : 'Arriving'} handle of the key at frame ${(end === 0 ? key : next).frame}`,
        value: curve[2 * end + 1],
        x: at(curve[2 * end]!),
        y: y(v0 + (v1 - v0) * curve[2 * end + 1]!),
        fromX: at(end),
        fromY: y(end === 0 ? v0 : v1),
      }));
    });
  });

  private drag: { key: Key; end: 0 | 1; gesture: string } | null = null;
  /** The values that are seen while a key is held: they do not move away under the hand. */
  private readonly held = signal<[number, number] | null>(null);

  private say = (value: number): string => `${Number(value.toPrecision(3))} ${this.unit()}${this.speed() ? '/s' : ''}`;

  press(event: PointerEvent, { key, axis }: { key: Key; axis: number | null }): void {
    if (event.button !== 0) return;
    const y = this.y();
    this.held.set(y.domain() as [number, number]);
    this.pressKey.emit({ event, frame: key.frame, axis, perPixel: (y.invert(1) - y.invert(0)) * this.scale() });
  }

  pressHandle(event: PointerEvent, key: Key, end: 0 | 1): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).closest('svg')!.setPointerCapture(event.pointerId);
    this.drag = { key, end, gesture: newGesture() };
  }

  dragTo(event: PointerEvent): void {
    if (this.drag) this.dragHandle(event, this.drag);
  }

  release(): void {
    this.drag = null;
    this.held.set(null);
  }

  private dragHandle(event: PointerEvent, { key, end, gesture }: { key: Key; end: 0 | 1; gesture: string }): void {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    this.putHandle(key.frame, end, event.clientX - box.left, event.clientY - box.top, gesture);
  }

  private putHandle(frame: number, end: 0 | 1, left: number, top: number, gesture: string): void {
    const { keys } = this.lane();
    const at = keys.findIndex((key) => key.frame === frame);
    const [key, next] = [keys[at], keys[at + 1]];
    if (!key || !next || typeof key.pace !== 'object' || !('curve' in key.pace)) return;
    const axis = this.axes()[0]!;
    const [v0, v1] = [key, next].map(({ value }) => numberOf(value, axis) / this.scale()) as [number, number];
    const share = (this.x().invert(left) - key.frame) / (next.frame - key.frame);
    const curve = [...key.pace.curve] as [number, number, number, number];
    // A handle outside the time would send the value back and forth at once.
    curve[2 * end] = Math.min(1, Math.max(0, share));
    if (Math.abs(v1 - v0) > 1e-9) curve[2 * end + 1] = (this.y().invert(top) - v0) / (v1 - v0);
    this.paced.emit({ frame: key.frame, pace: { curve }, gesture });
  }

  nudgeHandle(event: KeyboardEvent, key: Key, end: 0 | 1): void {
    const by = { ArrowLeft: [-4, 0], ArrowRight: [4, 0], ArrowUp: [0, -4], ArrowDown: [0, 4] }[event.key];
    const handle = this.handles().find((each) => each.key === key && each.end === end);
    if (!by || !handle) return;
    event.preventDefault();
    event.stopPropagation();
    this.putHandle(key.frame, end, handle.x + by[0]!, handle.y + by[1]!, newGesture());
  }

  /** Up and down change the value by a step. */
  nudge(event: KeyboardEvent, { key, axis }: { key: Key; axis: number | null }): void {
    const sign = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (sign === 0) return;
    event.preventDefault();
    event.stopPropagation();
    this.studio.pickKeys([{ path: this.lane().track!, frame: key.frame }]);
    const step = (propertyAt(this.lane().path)?.step ?? 1) * (event.shiftKey ? 10 : 1);
    this.raise.emit({ by: sign * step * this.scale(), axis, gesture: newGesture() });
  }
}

function numberOf(value: Value | undefined, axis: number | null): number {
  if (Array.isArray(value)) return value[axis ?? 0]!;
  return typeof value === 'number' ? value : value === true ? 1 : 0;
}
