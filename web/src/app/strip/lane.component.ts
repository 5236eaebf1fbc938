import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { area, curveMonotoneX, line, type ScaleLinear } from 'd3';
import type { Key, Move } from '@zippy/core/document';
import { moveText } from '../kinds/moves';
import { ThingDirective } from '../menu/thing.directive';
import type { Lane } from './lanes';

/** Pixels. */
const HEIGHT = 30;
/** Where a value from 0 to 1 is drawn. */
const yOf = (value: number): number => HEIGHT - 4 - value * (HEIGHT - 10);

/** One lane of the strip: its value over time, moves as blocks and keys as handles. A frame that plays leaves it alone. */
@Component({
  selector: 'zr-lane',
  imports: [ThingDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.light]': "lane().tone === 'light'" },
  template: `
    <span class="label" [title]="lane().name + ' ' + lane().property"
      >{{ lane().name }} <span class="quiet">{{ lane().property }}</span></span
    >
    <svg [attr.height]="height" [attr.width]="width()" (pointerdown)="scrub.emit($event)">
      <path class="fill" [attr.d]="filled()" />
      @for (block of blocks(); track block.move.id) {
        <g
          class="move"
          [class.picked]="picked().has(block.move.id)"
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
            class="end"
            [attr.x]="block.width - 8"
            width="8"
            [attr.height]="height - 3"
            (pointerdown)="pressEnd.emit({ event: $event, move: block.move })"
          />
          <text x="8" y="12">{{ block.text }}</text>
        </g>
      }
      <path class="line" [attr.d]="outline()" />
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
  /** Frames of the shot. */
  readonly length = input.required<number>();
  /** Ids of what is selected. */
  readonly picked = input.required<ReadonlySet<string>>();
  /** Keys that are picked, as `path@frame`. */
  readonly marked = input.required<ReadonlySet<string>>();
  readonly scrub = output<PointerEvent>();
  readonly pressMove = output<{ event: PointerEvent; move: Move }>();
  readonly pressEnd = output<{ event: PointerEvent; move: Move }>();
  readonly pressKey = output<{ event: PointerEvent; frame: number }>();
  readonly nudge = output<{ event: KeyboardEvent; at: Key | Move }>();
  readonly height = HEIGHT;

  readonly filled = computed(() => {
    const x = this.x();
    return area<number>((_, k) => x(k + 1), HEIGHT - 1, yOf).curve(curveMonotoneX)(this.lane().graph) ?? '';
  });
  readonly outline = computed(() => {
    const x = this.x();
    return line<number>((_, k) => x(k + 1), yOf).curve(curveMonotoneX)(this.lane().graph) ?? '';
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
  readonly handles = computed(() => {
    const x = this.x();
    const { name, property, keys, graph, track } = this.lane();
    return keys.map((key) => ({
      key,
      mark: `${track}@${key.frame}`,
      label: `Key of ${name} ${property} at frame ${key.frame}`,
      x: x(key.frame),
      y: yOf(graph[Math.min(graph.length - 1, Math.max(0, Math.round(key.frame) - 1))] ?? 0.5),
    }));
  });
}
