import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatRippleModule } from '@angular/material/core';
import type { ScaleLinear } from 'd3';
import { newId, type Shot } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { ShotFaults } from '../store/shot-faults';
import { Studio } from '../store/studio';
import { Ask } from '../ui/ask/ask';
import { newGesture } from '../ui/gesture';
import { sayTime, type TimeWords } from './say-time';
import { ticksOf } from './ticks';

type Drag = { of: 'in' | 'out' | 'marker'; id: string; gesture: string; moved: boolean };

/** Frames, where playing and rendering begin and end, and what the user has marked. */
@Component({
  selector: 'zr-ruler',
  imports: [MatRippleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(pointerdown)': 'scrub.emit($event)',
    '(dblclick)': 'mark($event)',
    '(pointermove)': 'dragTo($event)',
    '(pointerup)': 'release()',
    '(pointercancel)': 'release()',
  },
  template: `
    @for (tick of ticks(); track tick) {
      <span class="tick mono" [style.left.px]="from() + x()(tick)">{{ say(tick) }}</span>
    }
    @if (ends(); as ends) {
      <div class="within" [style.left.px]="from() + x()(ends[0])" [style.width.px]="x()(ends[1]) - x()(ends[0])"></div>
      @for (end of [0, 1]; track end) {
        <div
          class="end"
          role="slider"
          tabindex="0"
          [class.last]="end === 1"
          [attr.aria-label]="end === 0 ? 'Begins at' : 'Ends at'"
          [attr.aria-valuenow]="ends[end]"
          [title]="(end === 0 ? 'Playing and rendering begin here: ' : 'Playing and rendering end here: ') + ends[end]"
          [style.left.px]="from() + x()(ends[end]!)"
          (pointerdown)="press($event, end === 0 ? 'in' : 'out')"
          (keydown)="nudge($event, end === 0 ? 'in' : 'out')"
        ></div>
      }
    }
    @for (span of faults.spans(); track $index) {
      <button
        matRipple
        class="fault"
        [attr.aria-label]="span.says + ' from frame ' + span.from + ' to ' + span.to"
        [title]="span.says"
        [style.left.px]="from() + x()(span.from) - 2"
        [style.width.px]="x()(span.to) - x()(span.from) + 4"
        (pointerdown)="$event.stopPropagation()"
        (click)="studio.goTo(span.from)"
      ></button>
    }
    @for (marker of markers(); track marker.id) {
      <div
        class="marker"
        role="button"
        tabindex="0"
        [attr.aria-label]="'Marker ' + marker.note + ' at frame ' + marker.frame"
        [title]="marker.note"
        [style.left.px]="from() + x()(marker.frame)"
        (pointerdown)="press($event, 'marker', marker.id)"
        (dblclick)="$event.stopPropagation(); rename(marker.id, marker.note)"
        (keydown)="key($event, marker.id)"
      >
        {{ marker.note }}
      </div>
    }
  `,
  styles: `
    :host {
      position: sticky;
      top: 0;
      z-index: 2;
      display: block;
      height: 22px;
      background: var(--panel);
      cursor: ew-resize;
      overflow: hidden;
    }
    .tick {
      position: absolute;
      translate: -50%;
      top: 4px;
      color: var(--quiet);
      font-size: 10px;
    }
    .within {
      position: absolute;
      bottom: 0;
      height: 3px;
      background: color-mix(in srgb, var(--select) 55%, transparent);
      pointer-events: none;
    }
    .end {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 9px;
      translate: -2px;
      border-left: 2px solid var(--select);
      border-bottom: 4px solid var(--select);
    }
    .end.last {
      translate: -7px;
      border-left: 0;
      border-right: 2px solid var(--select);
    }
    .fault {
      position: absolute;
      bottom: 0;
      height: 5px;
      padding: 0;
      border: 0;
      border-radius: 2px;
      background: repeating-linear-gradient(
        90deg,
        color-mix(in srgb, var(--light) 75%, transparent) 0 4px,
        color-mix(in srgb, var(--light) 25%, transparent) 4px 8px
      );
      cursor: pointer;
    }
    .marker {
      position: absolute;
      top: 2px;
      max-width: 90px;
      height: 16px;
      padding: 0 5px;
      border-left: 2px solid var(--light);
      border-radius: 0 6px 6px 0;
      background: color-mix(in srgb, var(--light) 26%, var(--panel));
      font-size: 10px;
      line-height: 16px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      cursor: grab;
    }
  `,
})
export class RulerComponent {
  readonly studio = inject(Studio);
  readonly faults = inject(ShotFaults);
  private readonly ask = inject(Ask);
  readonly shot = input.required<Shot>();
  readonly x = input.required<ScaleLinear<number, number>>();
  /** Pixels at which the lanes begin. */
  readonly from = input.required<number>();
  readonly words = input.required<TimeWords>();
  readonly rate = input.required<number>();
  readonly scrub = output<PointerEvent>();

  readonly ticks = computed(() => ticksOf(this.x(), this.words() === 'frames' ? 46 : 62));
  readonly ends = computed(() => (this.shot().range ? rangeOf(this.shot()) : null));
  readonly markers = computed(() => Object.values(this.shot().markers).sort((a, b) => a.frame - b.frame));
  private drag: Drag | null = null;

  say = (frame: number): string => sayTime(frame, this.rate(), this.words());

  private frameAt(event: MouseEvent): number {
    const left = (event.currentTarget as HTMLElement).getBoundingClientRect().left + this.from();
    return Math.min(this.shot().length, Math.max(1, Math.round(this.x().invert(event.clientX - left))));
  }

  private inShot(label: string, change: (shot: Shot) => void, gesture?: string): void {
    const { id } = this.shot();
    this.studio.edit(label, (draft) => change(draft.shots[id]!), gesture);
  }

  /** Marks the frame that is double-clicked. */
  mark(event: MouseEvent): void {
    const [id, frame] = [newId(), this.frameAt(event)];
    this.inShot('Mark frame', (shot) => void (shot.markers[id] = { id, frame, note: `Mark ${frame}` }));
  }

  async rename(id: string, note: string): Promise<void> {
    const name = await this.ask.name('What is marked here', 'Rename', note);
    if (name) this.inShot('Rename marker', ({ markers }) => void (markers[id] && (markers[id].note = name)));
  }

  press(event: PointerEvent, of: Drag['of'], id = ''): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const host = (event.currentTarget as HTMLElement).parentElement!;
    host.setPointerCapture(event.pointerId);
    this.drag = { of, id, gesture: newGesture(), moved: false };
  }

  dragTo(event: PointerEvent): void {
    if (!this.drag) return;
    this.put(this.drag.of, this.drag.id, this.frameAt(event), this.drag.gesture);
    this.drag.moved = true;
  }

  /** A marker that is clicked is gone to. */
  release(): void {
    const { drag } = this;
    this.drag = null;
    if (drag?.of === 'marker' && !drag.moved) this.studio.goTo(this.shot().markers[drag.id]?.frame ?? 1);
  }

  nudge(event: KeyboardEvent, of: 'in' | 'out'): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const [first, last] = rangeOf(this.shot());
    this.put(of, '', (of === 'in' ? first : last) + by, newGesture());
  }

  key(event: KeyboardEvent, id: string): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    const marker = this.shot().markers[id];
    if (!marker) return;
    if (event.key === 'Enter') this.studio.goTo(marker.frame);
    else if (event.key === 'Delete' || event.key === 'Backspace')
      this.inShot('Delete marker', ({ markers }) => void delete markers[id]);
    else if (event.key === 'F2') void this.rename(id, marker.note);
    else if (by !== 0) this.put('marker', id, marker.frame + by, newGesture());
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private put(of: Drag['of'], id: string, frame: number, gesture: string): void {
    const { length } = this.shot();
    const at = Math.min(length, Math.max(1, frame));
    if (of === 'marker')
      return this.inShot('Move marker', ({ markers }) => void (markers[id] && (markers[id].frame = at)), gesture);
    this.inShot(
      of === 'in' ? 'Begin here' : 'End here',
      (shot) => {
        const [first, last] = rangeOf(shot);
        const range: [number, number] = of === 'in' ? [Math.min(at, last), last] : [first, Math.max(at, first)];
        shot.range = range[0] === 1 && range[1] === length ? null : range;
      },
      gesture,
    );
  }
}
