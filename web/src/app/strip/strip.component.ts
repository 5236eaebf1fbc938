import { ThingDirective } from '../menu/thing.directive';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { newGesture } from '../ui/gesture';
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
import { scaleLinear } from 'd3';
import { inOrder, shotsInOrder, type Key, type Move, type Shot } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { Api } from '../api/api';
import { ShotStills, stillFrame, STILLS_PER_SHOT } from '../tasks/shot-stills';
import { IconComponent } from '../ui/icon.component';
import type { KeyMark } from '../store/view/view.state';
import { Studio } from '../store/studio';
import { Things } from '../store/edits/things';
import { FrameNumberComponent } from './frame-number.component';
import { LaneComponent } from './lane.component';
import { lanesOf, type Lane } from './lanes';
import { PlayheadComponent } from './playhead.component';
import { shiftKeys, shiftMoves, stretchMove } from '../store/edits/strip-edits';

const LABELS = 176;

type Drag =
  | { kind: 'playhead' }
  | { kind: 'keys'; from: number; marks: KeyMark[]; moved: number; gesture: string }
  | { kind: 'moves'; from: number; starts: Map<string, number>; gesture: string }
  | { kind: 'stretch'; from: number; id: string; length: number; gesture: string };

/** The film as shots, and the present shot as lanes of values with keys and moves. */
@Component({
  selector: 'zr-strip',
  imports: [
    FrameNumberComponent,
    IconComponent,
    LaneComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PlayheadComponent,
    ThingDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './strip.component.html',
  styleUrl: './strip.component.scss',
})
export class StripComponent {
  readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly api = inject(Api);
  private readonly stills = inject(ShotStills);
  private readonly lanesArea = viewChild.required<ElementRef<HTMLElement>>('lanesArea');
  readonly width = signal(800);
  readonly labels = LABELS;
  readonly shots = computed(() => shotsInOrder(this.studio.document()));
  readonly length = computed(() => this.studio.shot()?.length ?? 1);
  readonly lanes = computed((): Lane[] => {
    const shot = this.studio.shot();
    return shot ? lanesOf(this.studio.document(), shot) : [];
  });
  /** Names of lamps that are on and run on tracks, which have no lanes. */
  readonly running = computed(() =>
    inOrder(this.studio.document().lights).flatMap(({ name, on, track }) => (on && track ? [name] : [])),
  );
  readonly x = computed(() => scaleLinear([1, this.length()], [8, Math.max(60, this.width() - 14)]));
  readonly ticks = computed(() => {
    const every = [1, 2, 6, 12, 24, 48, 120, 240, 1200].find((step) => this.x()(1 + step) - this.x()(1) > 46) ?? 2400;
    return Array.from({ length: Math.floor(this.length() / every) + 1 }, (_, k) => Math.max(1, k * every));
  });
  readonly rate = computed(() => Number(this.studio.frameRate().toFixed(3)));
  readonly filmSeconds = computed(() =>
    (this.shots().reduce((sum, shot) => sum + shot.length, 0) / this.rate()).toFixed(1),
  );
  readonly marked = computed(() => new Set(this.studio.keys().map((key) => `${key.path}@${key.frame}`)));
  readonly picked = computed(() => new Set(this.studio.selection().map(({ id }) => id)));
  private drag: Drag | null = null;

  constructor() {
    afterNextRender(() => {
      const area = this.lanesArea().nativeElement;
      new ResizeObserver(() => this.width.set(area.clientWidth - LABELS)).observe(area);
    });
  }

  /** Small frames of every shot, by its id. */
  readonly thumbs = computed(() => new Map(this.shots().map((shot) => [shot.id, this.thumbsOf(shot)])));
  /** Of which earlier state the small frames of a shot are, in words, by its id. */
  readonly older = computed(
    () =>
      new Map(
        this.shots().flatMap((shot): [string, string][] => {
          const take = this.takeOf(shot);
          if (take && this.studio.isOlder(take))
            return [[shot.id, `Frames of take ${take.number}, rendered before the last changes`]];
          return !take && this.stills.older().has(shot.id) ? [[shot.id, 'Sketches from before the last changes']] : [];
        }),
      ),
  );

  /** Of the shot's newest take, or sketches of it, spread over its length. */
  private thumbsOf(shot: Shot): string[] {
    const take = this.takeOf(shot);
    const sketches = this.stills.stills().get(shot.id) ?? [];
    if (!take) return sketches;
    const look = this.studio.lookOf(take.id);
    return Array.from({ length: STILLS_PER_SHOT }, (_, k) => {
      const wanted = stillFrame(shot.length, k);
      const frame = take.done.reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best));
      // One frame does not stand for all of a shot that moves.
      const near = Math.abs(frame - wanted) <= shot.length / STILLS_PER_SHOT;
      return near ? this.api.frameUrl(take.id, frame, look, 120) : (sketches[k] ?? '');
    }).filter((url) => url !== '');
  }

  /** The newest take of a shot that has frames. */
  private takeOf(shot: Shot): Take | undefined {
    return [...this.studio.takes()].reverse().find((each) => each.shot === shot.id && each.done.length > 0);
  }

  scrub(event: PointerEvent): void {
    if (event.button !== 0) return;
    this.capture(event);
    this.drag = { kind: 'playhead' };
    this.studio.play(false);
    this.studio.goTo(this.frameAt(event));
  }

  pressKey(event: PointerEvent, lane: Lane, frame: number): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const marks = this.pickKey({ path: lane.track!, frame }, event.ctrlKey || event.shiftKey);
    this.capture(event);
    this.drag = { kind: 'keys', from: this.frameAt(event), marks, moved: 0, gesture: newGesture() };
  }

  pressMove(event: PointerEvent, move: Move): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.pickMove(move.id, event.ctrlKey || event.shiftKey);
    this.capture(event);
    const moves = this.studio.shot()!.moves;
    const starts = new Map(this.pickedMoves().map((id) => [id, moves[id]!.start]));
    this.drag = { kind: 'moves', from: this.frameAt(event), starts, gesture: newGesture() };
  }

  pressEnd(event: PointerEvent, move: Move): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('move', move.id);
    this.capture(event);
    const gesture = newGesture();
    this.drag = { kind: 'stretch', id: move.id, from: this.frameAt(event), length: move.length, gesture };
  }

  /** Arrows shift what is picked, with Shift ten frames at a time; with Alt they make a move longer or shorter. */
  nudge(event: KeyboardEvent, lane: Lane, at: Key | Move): void {
    const by = (event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0) * (event.shiftKey ? 10 : 1);
    const pick = event.key === 'Enter' || event.key === ' ';
    if (by === 0 && !pick) return;
    event.preventDefault();
    event.stopPropagation();
    const gesture = newGesture();
    if ('kind' in at) {
      this.pickMove(at.id, event.ctrlKey);
      const moves = this.studio.shot()!.moves;
      const starts = new Map(this.pickedMoves().map((id) => [id, moves[id]!.start]));
      if (event.altKey) this.inShot('Stretch move', gesture, (shot) => stretchMove(shot, at.id, at.length, by));
      else if (by) this.inShot('Shift moves', gesture, (shot) => shiftMoves(shot, starts, by));
    } else {
      const marks = this.pickKey({ path: lane.track!, frame: at.frame }, event.ctrlKey);
      if (!by) return;
      this.inShot('Move keys', gesture, (shot) => void shiftKeys(shot, marks, by));
      this.studio.pickKeys(marks.map(({ path, frame }) => ({ path, frame: frame + by })));
    }
  }

  dragTo(event: PointerEvent): void {
    const { drag } = this;
    if (!drag) return;
    const frame = this.frameAt(event);
    if (drag.kind === 'playhead') this.studio.goTo(frame);
    else if (drag.kind === 'keys') this.dragKeys(drag, frame - drag.from);
    else if (drag.kind === 'moves')
      this.inShot('Shift moves', drag.gesture, (shot) => shiftMoves(shot, drag.starts, frame - drag.from));
    else
      this.inShot('Stretch move', drag.gesture, (shot) => stretchMove(shot, drag.id, drag.length, frame - drag.from));
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

  readonly movesPicked = computed(() => this.pickedMoves().length > 0);

  copy(): void {
    this.things.copyToPlayhead();
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

  private dragKeys(drag: Extract<Drag, { kind: 'keys' }>, by: number): void {
    if (by === drag.moved) return;
    const step = by - drag.moved;
    drag.moved = by;
    this.inShot('Move keys', drag.gesture, (shot) => (drag.marks = shiftKeys(shot, drag.marks, step)));
    this.studio.pickKeys(drag.marks);
  }

  private inShot(label: string, gesture: string, change: (shot: Shot) => void): void {
    const shot = this.studio.shotId();
    if (shot) this.studio.edit(label, (draft) => change(draft.shots[shot]!), gesture);
  }

  /** Picks a key, together with those picked before where `more` is set or it is one of them. */
  private pickKey(mark: KeyMark, more: boolean): KeyMark[] {
    const present = this.studio.keys();
    const there = present.some((each) => each.path === mark.path && each.frame === mark.frame);
    const keys = there ? present : more ? [...present, mark] : [mark];
    this.studio.pickKeys(keys);
    return keys;
  }

  private pickMove(id: string, more: boolean): void {
    if (!this.pickedMoves().includes(id)) this.studio.select('move', id, more);
  }

  private pickedMoves(): string[] {
    const moves = this.studio.shot()?.moves ?? {};
    return this.studio.selection().flatMap((each) => (each.kind === 'move' && each.id in moves ? [each.id] : []));
  }
}
