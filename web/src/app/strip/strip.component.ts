import { ThingDirective } from '../menu/thing.directive';
import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
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
import {
  entityName,
  inOrder,
  nearest,
  propertyAt,
  shotsInOrder,
  type Key,
  type Move,
  type Pace,
  type Shot,
  type Value,
} from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { Api } from '../api/api';
import { ShotStills, stillFrame, STILLS_PER_SHOT } from '../tasks/shot-stills';
import { IconComponent } from '../ui/icon.component';
import type { KeyMark } from '../store/view/view.state';
import { Studio } from '../store/studio';
import { Things } from '../store/edits/things';
import { paceKeys, shiftKeys, shiftMoves, stretchMove } from '../store/edits/strip-edits';
import { Shots } from '../store/edits/shots';
import { raiseKeys, stretchKeys } from '../store/edits/key-edits';
import { SmallButtonComponent } from '../ui/small-button.component';
import { TextFieldComponent } from '../ui/text-field.component';
import { FrameNumberComponent } from './frame-number.component';
import { LaneCurveComponent } from './lane-curve.component';
import { LaneComponent } from './lane.component';
import { lanesOf, type Lane } from './lanes';
import { PlayRateComponent } from './play-rate.component';
import { PlayheadComponent } from './playhead.component';
import { RulerComponent } from './ruler.component';
import { NEXT_WORDS, sayTime, type TimeWords } from './say-time';
import { snapped } from './snap';
import { StripWindow } from './strip-window';

const LABELS = 176;

type Drag =
  | { kind: 'playhead' }
  | { kind: 'keys'; from: number; marks: KeyMark[]; moved: number; gesture: string; curve?: CurveHold }
  | { kind: 'keySpan'; from: number; about: number; marks: KeyMark[]; original: Shot['tracks']; gesture: string }
  | { kind: 'moves'; from: number; starts: Map<string, number>; gesture: string }
  | { kind: 'stretch'; from: number; id: string; start: number; length: number; end: 'start' | 'end'; gesture: string }
  | { kind: 'box'; x: number; y: number; more: boolean };

/** A key that is held in a curve, where it rises too. */
interface CurveHold {
  axis: number | null;
  /** What it rises by for a pixel down, in the document's unit. */
  perPixel: number;
  y: number;
}

/** A rectangle on the lanes, in pixels of them. */
interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Pixels by which the pointer has to move before it draws a box. */
const SLACK = 4;
/** Pixels within which what is dragged is drawn to something. */
const SNAP = 6;
const WORDS_KEPT = 'zippy.time-words';

/** The film as shots, and the present shot as lanes of values with keys and moves. */
@Component({
  selector: 'zr-strip',
  imports: [
    CdkDrag,
    CdkDropList,
    FrameNumberComponent,
    IconComponent,
    LaneComponent,
    LaneCurveComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PlayRateComponent,
    PlayheadComponent,
    RulerComponent,
    SmallButtonComponent,
    TextFieldComponent,
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
  readonly shotEdits = inject(Shots);
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
  readonly window = new StripWindow(this.length);
  readonly x = this.window.x;
  readonly width = this.window.width;
  readonly words = signal<TimeWords>((localStorage.getItem(WORDS_KEPT) as TimeWords | null) ?? 'frames');
  /** What is typed to find lanes. */
  readonly sought = signal('');
  /** Things whose lanes are folded, and lanes whose curves are open, by their ids. */
  readonly folded = signal<ReadonlySet<string>>(new Set());
  readonly curves = signal<ReadonlySet<string>>(new Set());
  readonly box = signal<Box | null>(null);
  /** Lanes by what they are of; a thing with several has a row of its own above them. */
  readonly groups = computed(() => {
    const sought = this.sought().toLowerCase();
    const groups = new Map<string, Lane[]>();
    for (const lane of this.lanes()) {
      if (sought !== '' && !`${lane.name} ${lane.property}`.toLowerCase().includes(sought)) continue;
      groups.set(lane.thing, [...(groups.get(lane.thing) ?? []), lane]);
    }
    return [...groups].map(([thing, lanes]) => ({
      thing,
      lanes,
      name: lanes[0]!.name,
      headed: lanes.length > 1,
      open: !this.folded().has(thing),
    }));
  });
  readonly rate = computed(() => Number(this.studio.frameRate().toFixed(3)));
  readonly filmSeconds = computed(() =>
    (this.shots().reduce((sum, shot) => sum + (shot.included ? shot.length : 0), 0) / this.rate()).toFixed(1),
  );
  readonly marked = computed(() => new Set(this.studio.keys().map((key) => `${key.path}@${key.frame}`)));
  readonly picked = computed(() => new Set(this.studio.selection().map(({ id }) => id)));
  private drag: Drag | null = null;

  constructor() {
    afterNextRender(() => {
      const area = this.lanesArea().nativeElement;
      new ResizeObserver(() => this.width.set(area.clientWidth - LABELS)).observe(area);
      // Not passive: the page must not zoom or scroll with it.
      area.addEventListener('wheel', (event) => this.wheel(event), { passive: false });
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
    event.stopPropagation();
    this.capture(event);
    this.drag = { kind: 'playhead' };
    this.studio.play(false);
    this.studio.goTo(this.frameAt(event));
  }

  pressKey(event: PointerEvent, lane: Lane, frame: number, curve?: Omit<CurveHold, 'y'>): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const marks = this.pickKey({ path: lane.track!, frame }, event.ctrlKey || event.shiftKey);
    this.capture(event);
    if (event.altKey && marks.length > 1) return this.beginSpan(marks, frame);
    this.drag = {
      kind: 'keys',
      from: this.frameAt(event),
      marks,
      moved: 0,
      gesture: newGesture(),
      ...(curve && { curve: { ...curve, y: event.clientY } }),
    };
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

  /** With Alt, picked keys are stretched about the end that is farther from the one that is held. */
  private beginSpan(marks: KeyMark[], frame: number): void {
    const frames = marks.map((mark) => mark.frame);
    const [first, last] = [Math.min(...frames), Math.max(...frames)];
    const about = last - frame > frame - first ? last : first;
    const original = this.studio.shot()!.tracks;
    this.drag = { kind: 'keySpan', from: frame, about, marks, original, gesture: newGesture() };
  }

  pressEnd(event: PointerEvent, move: Move, end: 'start' | 'end' = 'end'): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('move', move.id);
    this.capture(event);
    const { id, start, length } = move;
    this.drag = { kind: 'stretch', id, from: this.frameAt(event), start, length, end, gesture: newGesture() };
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

  /** On the empty part of a lane: a box, or where it is clicked the playhead. */
  pressLane(event: PointerEvent): void {
    // Buttons and names beside the lanes keep their clicks.
    const [x, y] = this.placeOf(event);
    if (event.button !== 0 || x < LABELS) return;
    this.capture(event);
    this.drag = { kind: 'box', x, y, more: event.ctrlKey || event.shiftKey };
  }

  dragTo(event: PointerEvent): void {
    const { drag } = this;
    if (!drag) return;
    const frame = this.frameAt(event);
    switch (drag.kind) {
      case 'playhead':
        return this.studio.goTo(frame);
      case 'box':
        return this.dragBox(drag, event);
      case 'keys': {
        const { curve } = drag;
        if (curve && event.clientY !== curve.y) {
          this.raise({ by: (event.clientY - curve.y) * curve.perPixel, axis: curve.axis, gesture: drag.gesture });
          curve.y = event.clientY;
        }
        const first = Math.min(...drag.marks.map((mark) => mark.frame)) - drag.moved;
        return this.dragKeys(drag, this.drawn(event, first + frame - drag.from, drag.marks, []) - first);
      }
      case 'keySpan': {
        const factor = (this.drawn(event, frame, drag.marks, []) - drag.about) / (drag.from - drag.about || 1);
        this.inShot('Stretch keys', drag.gesture, (shot) => {
          for (const { path } of drag.marks) shot.tracks[path] = drag.original[path]!.map((key) => ({ ...key }));
          this.studio.pickKeys(stretchKeys(shot, drag.marks, drag.about, factor));
        });
        return;
      }
      case 'moves': {
        const first = Math.min(...drag.starts.values());
        const to = this.drawn(event, first + frame - drag.from, [], [...drag.starts.keys()]);
        return this.inShot('Shift moves', drag.gesture, (shot) => shiftMoves(shot, drag.starts, to - first));
      }
      case 'stretch': {
        const own = drag.end === 'end' ? drag.from : drag.start;
        const to = this.drawn(event, own + frame - drag.from, [], [drag.id]);
        return this.inShot('Stretch move', drag.gesture, (shot) =>
          stretchMove(shot, drag.id, drag.length, to - own, drag.end === 'start' ? drag.start : undefined),
        );
      }
    }
  }

  release(event?: PointerEvent): void {
    const { drag } = this;
    this.drag = null;
    if (drag?.kind !== 'box') return;
    const box = this.box();
    this.box.set(null);
    if (box) this.pickIn(box, drag.more);
    else if (event) {
      this.studio.play(false);
      this.studio.goTo(this.frameAt(event));
    }
  }

  private dragBox(drag: Extract<Drag, { kind: 'box' }>, event: PointerEvent): void {
    const [x, y] = this.placeOf(event);
    if (!this.box() && Math.hypot(x - drag.x, y - drag.y) < SLACK) return;
    this.box.set({
      left: Math.min(x, drag.x),
      top: Math.min(y, drag.y),
      width: Math.abs(x - drag.x),
      height: Math.abs(y - drag.y),
    });
  }

  /** Picks keys and moves in a box; of both there, the keys. */
  private pickIn({ left, top, width, height }: Box, more: boolean): void {
    const [from, to] = [this.x().invert(left - LABELS), this.x().invert(left + width - LABELS)];
    const rows = [...this.lanesArea().nativeElement.querySelectorAll<HTMLElement>('zr-lane')];
    const seen = new Map(this.lanes().map((lane) => [lane.id, lane]));
    const lanes = rows.flatMap((row) =>
      row.offsetTop + row.offsetHeight > top && row.offsetTop < top + height
        ? (seen.get(row.dataset['lane'] ?? '') ?? [])
        : [],
    );
    const keys = lanes.flatMap(({ keys: row, track }) =>
      row.flatMap(({ frame }) => (frame >= from && frame <= to ? [{ path: track!, frame }] : [])),
    );
    if (keys.length > 0) {
      const present = more ? this.studio.keys() : [];
      const known = new Set(present.map(({ path, frame }) => `${path}@${frame}`));
      return this.studio.pickKeys([...present, ...keys.filter(({ path, frame }) => !known.has(`${path}@${frame}`))]);
    }
    const moves = lanes.flatMap((lane) =>
      lane.moves.filter((move) => move.start + move.length * move.repeat > from && move.start < to),
    );
    if (moves.length > 0) this.studio.selectAll(moves.map(({ id }) => ({ kind: 'move', id })));
    else if (!more) this.studio.selectNothing();
  }

  /** Pixels of the lanes, scrolled along. */
  private placeOf(event: PointerEvent): [number, number] {
    const area = this.lanesArea().nativeElement;
    const box = area.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top + area.scrollTop];
  }

  /** A frame, drawn to the playhead, the ends, markers and what else stands on the strip; with Ctrl it stays where it is. */
  private drawn(event: PointerEvent, frame: number, marks: readonly KeyMark[], moves: readonly string[]): number {
    const shot = this.studio.shot();
    if (!shot || event.ctrlKey) return frame;
    const reach = this.x().invert(SNAP) - this.x().invert(0);
    return snapped(shot, frame, reach, { playhead: this.studio.restFrame(), marks, moves });
  }

  /** With Ctrl the wheel zooms about the pointer, with Shift or sideways it scrolls. */
  private wheel(event: WheelEvent): void {
    const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
    if (event.ctrlKey || event.metaKey) this.window.zoom(Math.exp(event.deltaY / 400), this.pointed(event));
    else if (this.window.zoomed() && sideways !== 0) {
      const [from, to] = this.window.range();
      this.window.scroll((sideways / Math.max(1, this.width())) * (to - from));
    } else return;
    event.preventDefault();
  }

  private pointed(event: MouseEvent): number {
    const left = this.lanesArea().nativeElement.getBoundingClientRect().left + LABELS;
    return Math.min(this.length(), Math.max(1, this.x().invert(event.clientX - left)));
  }

  /** Shows what is picked, or all of the shot. */
  fit(): void {
    const moves = this.pickedMoves().map((id) => this.studio.shot()!.moves[id]!);
    const times = [
      ...this.studio.keys().map(({ frame }) => frame),
      ...moves.flatMap((move) => [move.start, Math.min(this.length(), move.start + move.length * move.repeat)]),
    ];
    if (times.length < 2 || this.window.zoomed()) return this.window.fit();
    const [first, last] = [Math.min(...times), Math.max(...times)];
    const room = (last - first) * 0.05 + 1;
    this.window.focus(Math.max(1, first - room), Math.min(this.length(), last + room));
  }

  zoomBy(factor: number): void {
    this.window.zoom(factor, this.studio.restFrame());
  }

  changeWords(): void {
    this.words.update((words) => NEXT_WORDS[words]);
    localStorage.setItem(WORDS_KEPT, this.words());
  }

  say = (frame: number): string => sayTime(frame, this.studio.frameRate(), this.words());

  nameOf = (thing: string): string => entityName(this.studio.document(), thing);

  fold(thing: string): void {
    this.folded.update((folded) => toggled(folded, thing));
  }

  openCurve(lane: string): void {
    this.curves.update((open) => toggled(open, lane));
  }

  raise({ by, axis, gesture }: { by: number; axis: number | null; gesture: string }): void {
    const marks = this.studio.keys();
    const bring = (path: string, value: Value) => {
      const property = propertyAt(path);
      return property ? nearest(property, value) : value;
    };
    this.inShot('Values of keys', gesture, (shot) => raiseKeys(shot, marks, by, axis, bring));
  }

  paceKey(lane: Lane, { frame, pace, gesture }: { frame: number; pace: Pace; gesture: string }): void {
    this.inShot('Pace', gesture, (shot) => paceKeys(shot, [{ path: lane.track!, frame }], pace));
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

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}
