import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../ui/choice.component';
import { newGesture } from '../ui/gesture';
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { line, range, scaleLinear } from 'd3';
import { curveThrough } from '@zippy/core/develop';
import type { Look } from '@zippy/core/document';
import { ARROWS } from './arrows';

type Channel = keyof Look['curves'];
type Points = Look['curves'][Channel];

const CHANNELS: { value: Channel; label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'red', label: 'Red' },
  { value: 'green', label: 'Green' },
  { value: 'blue', label: 'Blue' },
];
const WIDTH = 220;
const HEIGHT = 150;
const STEP = 0.01;
/** How near points may come to each other along the curve. */
const APART = 0.01;
const MOST = 16;

/** Curves of display values through points: drag a point, click beside the curve for a new one, double-click or delete to take it away. */
@Component({
  selector: 'zr-tone-curves',
  imports: [ChoiceComponent, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <zr-choice label="Curve of" [options]="channels" [value]="channel()" (chosen)="channel.set($any($event))" />
      <button matButton="tonal" [disabled]="straight()" (click)="straighten()">Straight</button>
    </div>
    <svg
      viewBox="0 0 220 150"
      role="group"
      aria-label="Curve from dark to bright"
      [attr.data-channel]="channel()"
      #drawing
      (pointerdown)="add($event, drawing)"
      (pointermove)="drag($event, drawing)"
      (pointerup)="held = null"
      (pointercancel)="held = null"
    >
      <path class="frame" [attr.d]="frame" />
      <path class="curve" [attr.d]="path()" />
      @for (point of points(); track $index) {
        <circle
          r="6"
          tabindex="0"
          role="slider"
          [attr.aria-label]="'Point ' + ($index + 1)"
          [attr.aria-valuenow]="point[1]"
          [attr.aria-valuetext]="point[0].toFixed(2) + ' becomes ' + point[1].toFixed(2)"
          [attr.cx]="x(point[0])"
          [attr.cy]="y(point[1])"
          (pointerdown)="press($event, $index, drawing)"
          (dblclick)="remove($index)"
          (keydown)="nudge($event, $index)"
        />
      }
    </svg>
  `,
  styleUrl: './curve.scss',
  styles: `
    .head {
      display: flex;
      gap: 6px;
    }
    zr-choice {
      flex: 1;
    }
    [data-channel='red'] {
      --curve: #e0605a;
    }
    [data-channel='green'] {
      --curve: #58b368;
    }
    [data-channel='blue'] {
      --curve: #5b8def;
    }
  `,
})
export class ToneCurvesComponent {
  readonly curves = input.required<Look['curves']>();
  readonly changed = output<{ curves: Look['curves']; gesture: string }>();
  readonly channels = CHANNELS;
  readonly channel = signal<Channel>('all');
  readonly x = scaleLinear([0, 1], [10, WIDTH - 10]);
  readonly y = scaleLinear([0, 1], [HEIGHT - 10, 10]);
  readonly frame = [0, 0.25, 0.5, 0.75, 1].map((v) => `M${this.x(v)} ${this.y(0)}V${this.y(1)}M${this.x(0)} ${this.y(v)}H${this.x(1)}`).join(''); // prettier-ignore
  readonly points = computed(() => this.curves()[this.channel()]);
  readonly straight = computed(() => this.points().length === 2 && this.points().flat().join() === '0,0,1,1');
  readonly path = computed(() => {
    const curve = curveThrough(this.points());
    return line<number>(this.x, (t) => this.y(Math.min(1, Math.max(0, curve(t)))))(range(0, 1.0001, 1 / 100));
  });
  held: { point: number; gesture: string } | null = null;

  straighten(): void {
    this.emit([[0, 0], [1, 1]], newGesture()); // prettier-ignore
  }

  press(event: PointerEvent, point: number, drawing: Element): void {
    event.stopPropagation();
    this.held = { point, gesture: newGesture() };
    drawing.setPointerCapture(event.pointerId);
  }

  add(event: PointerEvent, drawing: Element): void {
    const [x, y] = this.valueAt(event, drawing);
    const points = this.points();
    const at = points.findIndex(([other]) => other > x);
    const place = at < 0 ? points.length : at;
    if (points.length >= MOST || points.some(([other]) => Math.abs(other - x) < APART)) return;
    const gesture = newGesture();
    this.emit([...points.slice(0, place), [round(x), round(y)], ...points.slice(place)], gesture);
    this.held = { point: place, gesture };
    drawing.setPointerCapture(event.pointerId);
  }

  drag(event: PointerEvent, drawing: Element): void {
    if (!this.held) return;
    const [x, y] = this.valueAt(event, drawing);
    this.put(this.held.point, x, y, this.held.gesture);
  }

  nudge(event: KeyboardEvent, point: number): void {
    const by = ARROWS[event.key];
    if (!by && event.key !== 'Delete' && event.key !== 'Backspace') return;
    event.preventDefault();
    event.stopPropagation();
    if (!by) return this.remove(point);
    const [x, y] = this.points()[point]!;
    this.put(point, x + by[0] * STEP, y + by[1] * STEP, newGesture());
  }

  remove(point: number): void {
    const points = this.points();
    if (points.length > 2) this.emit(points.filter((_, k) => k !== point), newGesture()); // prettier-ignore
  }

  private valueAt(event: PointerEvent, drawing: Element): [number, number] {
    const box = drawing.getBoundingClientRect();
    const across = this.x.invert((event.clientX - box.left) * (WIDTH / box.width));
    const up = this.y.invert((event.clientY - box.top) * (HEIGHT / box.height));
    return [Math.min(1, Math.max(0, across)), Math.min(1, Math.max(0, up))];
  }

  /** Moves a point, between its neighbours. */
  private put(point: number, x: number, y: number, gesture: string): void {
    const points = this.points();
    const low = point === 0 ? 0 : points[point - 1]![0] + APART;
    const high = point === points.length - 1 ? 1 : points[point + 1]![0] - APART;
    const moved: Points[number] = [round(Math.min(high, Math.max(low, x))), round(Math.min(1, Math.max(0, y)))];
    this.emit(points.map((each, k) => (k === point ? moved : each)), gesture); // prettier-ignore
  }

  private emit(points: Points, gesture: string): void {
    this.changed.emit({ curves: { ...this.curves(), [this.channel()]: points }, gesture });
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
