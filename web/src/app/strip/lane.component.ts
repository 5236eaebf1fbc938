import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { area, curveMonotoneX, line, type ScaleLinear } from 'd3';
import type { Key, Move } from '@zippy/core/document';
import { moveText } from '../kinds/moves';
import { ThingDirective } from '../menu/thing.directive';
import { SmallButtonComponent } from '../ui/small-button.component';
import type { Lane } from './lanes';

/** Pixels. */
const HEIGHT = 30;
/** Keys of a lane beyond which they are drawn together. */
const CROWD = 300;
/** Where a value from 0 to 1 is drawn. */
const yOf = (value: number): number => HEIGHT - 4 - value * (HEIGHT - 10);

/** One lane of the strip: its value over time, moves as blocks and keys as handles. A frame that plays leaves it alone. */
@Component({
  selector: 'zr-lane',
  imports: [SmallButtonComponent, ThingDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.light]': "lane().tone === 'light'", '[class.below]': 'below()' },
  template: `
    <span class="label" [title]="lane().name + ' ' + lane().property">
      <zr-small-button
        icon="chevron"
        [turned]="open()"
        [label]="(open() ? 'Close the curve of ' : 'Open the curve of ') + lane().name + ' ' + lane().property"
        [pressed]="open()"
        (press)="opened.emit()"
      />
      <span>
        @if (!below()) {
          {{ lane().name }}
        }
        <span class="quiet">{{ lane().property }}</span></span
      >
    </span>
    <svg [attr.height]="height" [attr.width]="width()">
      <path class="fill" [attr.d]="filled()" />
      @for (block of blocks(); track block.move.id) {
        <g
          class="move"
          [class.picked]="picked().has(block.move.id)"
          [class.muted]="block.move.muted"
          tabindex="0"
          role="button"
          [attr.aria-label]="block.label"
          [attr.transform]="'translate(' + block.x + ' 1)'"
          (keydown)="nudge.emit({ event: $event, at: block.move })"
          [zrThing]="{ kind: 'move', id: block.move.id }"
        >
          <rect
            [attr.width]="block.width"
            [attr.height]="height - 3"
            rx="5"
            (pointerdown)="pressMove.emit({ event: $event, move: block.move })"
          />
          <rect
            class="begin"
            x="0"
            width="8"
            [attr.height]="height - 3"
            (pointerdown)="pressEnd.emit({ event: $event, move: block.move, end: 'start' })"
          />
          <rect
            class="end"
            [attr.x]="block.width - 8"
            width="8"
            [attr.height]="height - 3"
            (pointerdown)="pressEnd.emit({ event: $event, move: block.move, end: 'end' })"
          />
          <text x="8" y="12">{{ block.text }}</text>
        </g>
      }
      <path class="line" [attr.d]="outline()" />
      <path class="crowd" [attr.d]="crowd()" />
      @for (handle of handles(); track handle.key.frame) {
        <rect
          class="key"
          tabindex="0"
          role="button"
          [attr.aria-label]="handle.label"
          [class.picked]="marked().has(handle.mark)"
          [attr.x]="handle.x - 3"
          [attr.y]="handle.y - 7"
          width="6"
          height="14"
          rx="3"
          (pointerdown)="pressKey.emit({ event: $event, frame: handle.key.frame })"
          (keydown)="nudge.emit({ event: $event, at: handle.key })"
          [zrThing]="{ key: { path: lane().track!, frame: handle.key.frame } }"
        />
      }
    </svg>
  `,
  styleUrl: './lane.component.scss',
})
export class LaneComponent {
  readonly lane = input.required<Lane>();
  /** Pixels of a frame. */
  readonly x = input.required<ScaleLinear<number, number>>();
  readonly width = input.required<number>();
  /** Its curve is open below it. */
  readonly open = input(false);
  /** Under the name of its thing, which it does not tell again. */
  readonly below = input(false);
  readonly opened = output();
  /** Frames of the shot. */
  readonly length = input.required<number>();
  /** Ids of what is selected. */
  readonly picked = input.required<ReadonlySet<string>>();
  /** Keys that are picked, as `path@frame`. */
  readonly marked = input.required<ReadonlySet<string>>();
  readonly pressMove = output<{ event: PointerEvent; move: Move }>();
  readonly pressEnd = output<{ event: PointerEvent; move: Move; end: 'start' | 'end' }>();
  readonly pressKey = output<{ event: PointerEvent; frame: number }>();
  readonly nudge = output<{ event: KeyboardEvent; at: Key | Move }>();
  readonly height = HEIGHT;

  /** The frames that are seen, and one beside them on either side. */
  private readonly seen = computed(() => {
    const [from, to] = this.x().domain() as [number, number];
    return [Math.max(1, Math.floor(from) - 1), Math.min(this.lane().graph.length, Math.ceil(to) + 1)] as const;
  });
  /** Of the graph what is seen, no denser than pixels are. */
  private readonly drawn = computed(() => {
    const [first, last] = this.seen();
    const { graph } = this.lane();
    const step = Math.max(1, Math.floor((last - first) / Math.max(1, this.width())));
    const frames: number[] = [];
    for (let frame = first; frame <= last; frame += step) frames.push(frame);
    if (frames.at(-1) !== last) frames.push(last);
    return frames.map((frame) => [frame, graph[frame - 1] ?? 0.5] as const);
  });
  readonly filled = computed(() => {
    const x = this.x();
    return (
      area<readonly [number, number]>(
        ([frame]) => x(frame),
        HEIGHT - 1,
        ([, v]) => yOf(v),
      ).curve(curveMonotoneX)(this.drawn()) ?? ''
    );
  });
  readonly outline = computed(() => {
    const x = this.x();
    return (
      line<readonly [number, number]>(
        ([frame]) => x(frame),
        ([, v]) => yOf(v),
      ).curve(curveMonotoneX)(this.drawn()) ?? ''
    );
  });
  readonly blocks = computed(() => {
    const x = this.x();
    const { name, moves } = this.lane();
    return moves.map((move) => {
      const text = moveText(move);
      // Up to the end of the shot: what lies beyond would make the strip scroll sideways.
      const end = Math.min(this.length() + 0.5, move.start + move.length * move.repeat);
      const width = Math.max(10, x(end) - x(move.start));
      return {
        move,
        text,
        label: `${move.name} of ${name} from frame ${move.start}: ${text}`,
        x: x(move.start),
        width,
      };
    });
  });
  private readonly seenKeys = computed(() => {
    const { keys } = this.lane();
    const [from, to] = this.seen();
    const first = firstFrom(keys, from);
    return keys.slice(first, firstFrom(keys, to + 1));
  });
  /** Keys that stand too close to be taken one by one are drawn as one line each. */
  private readonly crowded = computed(() => this.seenKeys().length > CROWD);
  readonly crowd = computed(() => {
    if (!this.crowded()) return '';
    const x = this.x();
    // One for each pixel is enough.
    const columns = new Set(this.seenKeys().map(({ frame }) => Math.round(x(frame))));
    return [...columns].map((at) => `M${at} 8V${HEIGHT - 6}`).join('');
  });
  readonly handles = computed(() => {
    const x = this.x();
    const { name, property, graph, track } = this.lane();
    if (this.crowded()) return [];
    return this.seenKeys().map((key) => ({
      key,
      mark: `${track}@${key.frame}`,
      label: `Key of ${name} ${property} at frame ${key.frame}`,
      x: x(key.frame),
      y: yOf(graph[Math.min(graph.length - 1, Math.max(0, Math.round(key.frame) - 1))] ?? 0.5),
    }));
  });
}

/** Index of the first key at a frame or after it. */
function firstFrom(keys: readonly Key[], frame: number): number {
  let low = 0;
  let high = keys.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (keys[middle]!.frame >= frame) high = middle;
    else low = middle + 1;
  }
  return low;
}
