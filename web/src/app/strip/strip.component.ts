import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
  afterNextRender,
} from '@angular/core';
import { area, curveMonotoneX, line, scaleLinear } from 'd3';
import { shotsInOrder, type Move, type Pace, type Shot } from '@zippy/core/document';
import { Api } from '../api/api';
import { PACES } from '../fields/field-specs';
import { IconComponent } from '../shell/icon.component';
import type { KeyMark } from '../state/studio.state';
import { Studio } from '../state/studio';
import { Things } from '../state/things';
import { lanesOf, moveText, type Lane } from './lanes';

const LANE = 30;
const LABELS = 176;

type Drag =
  | { kind: 'playhead' }
  | { kind: 'keys'; from: number; marks: KeyMark[]; moved: number; gesture: string }
  | { kind: 'move' | 'stretch'; id: string; from: number; start: number; length: number; gesture: string };

/** The film as shots, and the present shot as lanes of values with keys and moves. */
@Component({
  selector: 'zr-strip',
  imports: [IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './strip.component.html',
  styleUrl: './strip.component.scss',
})
export class StripComponent {
  readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly api = inject(Api);
  private readonly lanesArea = viewChild.required<ElementRef<HTMLElement>>('lanesArea');
  readonly width = signal(800);
  readonly laneHeight = LANE;
  readonly labels = LABELS;
  readonly paces = PACES;
  readonly shots = computed(() => shotsInOrder(this.studio.document()));
  readonly length = computed(() => this.studio.shot()?.length ?? 1);
  readonly lanes = computed((): Lane[] => {
    const shot = this.studio.shot();
    return shot ? lanesOf(this.studio.document(), shot) : [];
  });
  readonly x = computed(() => scaleLinear([1, this.length()], [8, Math.max(60, this.width() - 14)]));
  readonly ticks = computed(() => {
    const every = [1, 2, 6, 12, 24, 48, 120, 240, 1200].find((step) => this.x()(1 + step) - this.x()(1) > 46) ?? 2400;
    return Array.from({ length: Math.floor(this.length() / every) + 1 }, (_, k) => Math.max(1, k * every));
  });
  readonly rate = computed(() => {
    const { numerator, denominator } = this.studio.document().frameRate;
    return Number((numerator / denominator).toFixed(3));
  });
  readonly filmSeconds = computed(() =>
    (this.shots().reduce((sum, shot) => sum + shot.length, 0) / this.rate()).toFixed(1),
  );
  readonly marked = computed(() => new Set(this.studio.state().keys.map((key) => `${key.path}@${key.frame}`)));
  readonly text = moveText;
  private drag: Drag | null = null;

  constructor() {
    afterNextRender(() => {
      const area = this.lanesArea().nativeElement;
      new ResizeObserver(() => this.width.set(area.clientWidth - LABELS)).observe(area);
    });
  }

  /** Small frames of a shot from its newest take, spread over its length. */
  thumbs(shot: Shot): string[] {
    const take = [...this.studio.takes()].reverse().find((each) => each.shot === shot.id && each.done.length > 0);
    if (!take) return [];
    const look = this.studio.lookOf(take.id);
    return [0, 1, 2, 3].map((k) => {
      const wanted = take.first + ((take.last - take.first) * (k + 0.5)) / 4;
      const frame = take.done.reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best));
      return this.api.frameUrl(take.id, frame, look, 120);
    });
  }

  filled(lane: Lane): string {
    return (
      area<number>(
        (_, k) => this.x()(k + 1),
        LANE - 1,
        (v) => LANE - 4 - v * (LANE - 10),
      ).curve(curveMonotoneX)(lane.graph) ?? ''
    );
  }

  outline(lane: Lane): string {
    return (
      line<number>(
        (_, k) => this.x()(k + 1),
        (v) => LANE - 4 - v * (LANE - 10),
      ).curve(curveMonotoneX)(lane.graph) ?? ''
    );
  }

  keyY(lane: Lane, frame: number): number {
    const value = lane.graph[Math.min(lane.graph.length - 1, Math.max(0, Math.round(frame) - 1))] ?? 0.5;
    return LANE - 4 - value * (LANE - 10);
  }

  blockWidth = (move: Move): number =>
    Math.max(10, this.x()(move.start + move.length * move.repeat) - this.x()(move.start));

  pace(lane: Lane): string {
    const at = this.studio.state().keys.find((key) => key.path === lane.track);
    const pace = lane.keys.find((key) => key.frame === at?.frame)?.pace;
    return typeof pace === 'string' ? pace : '';
  }

  setPace(pace: string): void {
    const { keys, shot } = this.studio.state();
    if (!shot) return;
    this.studio.edit('Pace', (draft) => {
      for (const mark of keys) {
        const key = draft.shots[shot]!.tracks[mark.path]?.find((each) => each.frame === mark.frame);
        if (key) key.pace = pace as Pace;
      }
    });
  }

  scrub(event: PointerEvent): void {
    this.capture(event);
    this.drag = { kind: 'playhead' };
    this.studio.view({ playing: false });
    this.studio.goTo(this.frameAt(event));
  }

  pressKey(event: PointerEvent, lane: Lane, frame: number): void {
    event.stopPropagation();
    const mark = { path: lane.track!, frame };
    const present = this.studio.state().keys;
    const there = present.some((each) => each.path === mark.path && each.frame === frame);
    const keys = there ? present : event.ctrlKey || event.shiftKey ? [...present, mark] : [mark];
    this.studio.view({ keys });
    this.capture(event);
    this.drag = {
      kind: 'keys',
      from: this.frameAt(event),
      marks: keys.map((key) => ({ ...key })),
      moved: 0,
      gesture: this.studio.newGesture(),
    };
  }

  pressMove(event: PointerEvent, move: Move, kind: 'move' | 'stretch'): void {
    event.stopPropagation();
    this.studio.select('move', move.id);
    this.capture(event);
    this.drag = {
      kind,
      id: move.id,
      from: this.frameAt(event),
      start: move.start,
      length: move.length,
      gesture: this.studio.newGesture(),
    };
  }

  dragTo(event: PointerEvent): void {
    const { drag } = this;
    if (!drag) return;
    const frame = this.frameAt(event);
    if (drag.kind === 'playhead') this.studio.goTo(frame);
    else if (drag.kind === 'keys') this.shiftKeys(drag, frame - drag.from);
    else this.shiftMove(drag, frame - drag.from);
  }

  release(): void {
    this.drag = null;
  }

  goTo(shot: Shot, event: MouseEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const part = (event.clientX - box.left) / box.width;
    this.studio.openShot(shot.id, shot.id === this.studio.shotId() ? Math.max(1, Math.round(part * shot.length)) : 1);
    this.studio.select('shot', shot.id);
  }

  addShot(): void {
    this.things.addShot();
  }

  private capture(event: PointerEvent): void {
    this.lanesArea().nativeElement.setPointerCapture(event.pointerId);
  }

  private frameAt(event: PointerEvent): number {
    const left = this.lanesArea().nativeElement.getBoundingClientRect().left + LABELS;
    return Math.min(this.length(), Math.max(1, Math.round(this.x().invert(event.clientX - left))));
  }

  private shiftKeys(drag: Extract<Drag, { kind: 'keys' }>, by: number): void {
    const shot = this.studio.shotId();
    if (!shot || by === drag.moved) return;
    const step = by - drag.moved;
    const now = drag.marks.map((mark) => ({ path: mark.path, frame: mark.frame + drag.moved }));
    drag.moved = by;
    this.studio.edit(
      'Move keys',
      (draft) => {
        for (const path of new Set(now.map((mark) => mark.path))) {
          const frames = new Set(now.filter((mark) => mark.path === path).map((mark) => mark.frame));
          const track = draft.shots[shot]!.tracks[path] ?? [];
          const carried = track
            .filter((key) => frames.has(key.frame))
            .map((key) => ({ ...key, frame: key.frame + step }));
          const taken = new Set(carried.map((key) => key.frame));
          const rest = track.filter((key) => !frames.has(key.frame) && !taken.has(key.frame));
          draft.shots[shot]!.tracks[path] = [...rest, ...carried].sort((a, b) => a.frame - b.frame);
        }
      },
      drag.gesture,
    );
    this.studio.view({ keys: drag.marks.map((mark) => ({ path: mark.path, frame: mark.frame + by })) });
  }

  private shiftMove(drag: Extract<Drag, { kind: 'move' | 'stretch' }>, by: number): void {
    const shot = this.studio.shotId();
    if (!shot) return;
    this.studio.edit(
      drag.kind === 'move' ? 'Shift move' : 'Stretch move',
      (draft) => {
        const move = draft.shots[shot]!.moves[drag.id];
        if (!move) return;
        if (drag.kind === 'move') move.start = drag.start + by;
        else move.length = Math.max(1, drag.length + Math.round(by / move.repeat));
      },
      drag.gesture,
    );
  }
}
