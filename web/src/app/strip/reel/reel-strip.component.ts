import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { CLIP, inOrder, nearest, SOUND, TITLE, type Key, type Sound, type Title } from '@zippy/core/document';
import type { LaidClip } from '@zippy/core/reel';
import { ThingDirective } from '../../menu/thing.directive';
import { ReelEdits } from '../../store/edits/reel-edits';
import { Playback } from '../../store/playback';
import { ReelFilm } from '../../store/reel/reel-film';
import { Studio } from '../../store/studio';
import { newGesture } from '../../ui/gesture';
import { IconComponent } from '../../ui/icon.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { FrameNumberComponent } from '../frame-number.component';
import { PlayheadComponent } from '../playhead.component';
import { NEXT_WORDS, sayTime, type TimeWords } from '../say-time';
import { StripWindow } from '../strip-window';
import { ticksOf } from '../ticks';
import { ClipBlockComponent } from './clip-block.component';
import { SoundWaveComponent } from './sound-wave.component';

const LABELS = 96;
/** Pixels within which what is dragged is drawn to the playhead and to ends of clips. */
const SNAP = 6;
/** Pixels that a clip is dragged before it changes places. */
const SLACK = 4;

type Drag =
  | { kind: 'playhead' }
  | { kind: 'clip'; id: string; x: number; moved: boolean; gesture: string; slips: LaidClip | null }
  | { kind: 'trim'; laid: LaidClip; end: 'start' | 'end'; from: number; gesture: string }
  | { kind: 'title'; title: Title; part: Part; from: number; gesture: string }
  | { kind: 'sound'; sound: Sound; part: Part; from: number; gesture: string };
type Part = 'all' | 'start' | 'end';

/** The film as it is put together: clips in their order, titles over them, sounds under them. */
@Component({
  selector: 'zr-reel-strip',
  imports: [
    ClipBlockComponent,
    FrameNumberComponent,
    IconComponent,
    MatButtonModule,
    MatTooltipModule,
    PlayheadComponent,
    SmallButtonComponent,
    SoundWaveComponent,
    ThingDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reel-strip.component.html',
  styleUrl: './reel-strip.component.scss',
})
export class ReelStripComponent {
  readonly studio = inject(Studio);
  readonly reel = inject(ReelFilm);
  readonly edits = inject(ReelEdits);
  readonly playback = inject(Playback);
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('lanes');
  readonly labels = LABELS;
  readonly words = signal<TimeWords>('frames');
  /** The clip that is held to be put elsewhere. */
  readonly held = signal<string | null>(null);
  readonly window = new StripWindow(() => this.reel.frames() + 1);
  readonly x = this.window.x;
  readonly width = this.window.width;
  readonly rate = computed(() => Number(this.reel.film().rate.toFixed(3)));
  readonly seconds = computed(() => (this.reel.frames() / this.reel.film().rate).toFixed(1));
  readonly clips = computed(() =>
    this.reel.film().clips.map((laid) => ({ laid, ...this.span(laid.start, laid.frames) })),
  );
  readonly titles = computed(() => {
    const { titles, tracks } = this.reel.film().reel;
    return inOrder(titles).map((title) => ({
      title,
      ...this.span(title.start, title.length),
      keys: keysOf(title, tracks),
    }));
  });
  readonly sounds = computed(() => {
    const { assets, reel } = this.studio.document();
    const { rate } = this.reel.film();
    return inOrder(reel.sounds).flatMap((sound) => {
      const asset = assets[sound.asset];
      if (!asset?.sound) return [];
      const there = Math.max(0, asset.sound.seconds - sound.from);
      const lasts = Math.max(0.05, sound.lasts > 0 ? Math.min(sound.lasts, there) : there);
      return [{ sound, asset, lasts, ...this.span(sound.start, lasts * rate) }];
    });
  });
  readonly ticks = computed(() => ticksOf(this.x(), 56));
  readonly marked = computed(() => new Set(this.studio.keys().map(({ path, frame }) => `${path}@${frame}`)));
  private drag: Drag | null = null;

  constructor() {
    afterNextRender(() => {
      const area = this.area().nativeElement;
      new ResizeObserver(() => this.width.set(area.clientWidth - LABELS)).observe(area);
      area.addEventListener('wheel', (event) => this.wheel(event), { passive: false });
    });
  }

  say = (frame: number): string => sayTime(frame, this.reel.film().rate, this.words());
  changeWords = (): void => this.words.update((words) => NEXT_WORDS[words]);

  private span(start: number, frames: number): { left: number; width: number } {
    const x = this.x();
    return { left: LABELS + x(start), width: Math.max(3, x(start + frames) - x(start)) };
  }

  private frameAt(event: MouseEvent): number {
    const left = this.area().nativeElement.getBoundingClientRect().left + LABELS;
    return this.x().invert(event.clientX - left);
  }

  private capture(event: PointerEvent): void {
    this.window.pin();
    this.area().nativeElement.setPointerCapture(event.pointerId);
  }

  scrub(event: PointerEvent): void {
    if (event.button !== 0) return;
    this.capture(event);
    this.drag = { kind: 'playhead' };
    this.studio.play(false);
    this.reel.goTo(this.frameAt(event));
  }

  pressClip(event: PointerEvent, laid: LaidClip): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('clip', laid.clip.id, event.ctrlKey || event.shiftKey);
    this.capture(event);
    const slips = event.altKey ? laid : null;
    this.drag = { kind: 'clip', id: laid.clip.id, x: event.clientX, moved: false, gesture: newGesture(), slips };
  }

  pressEnd({ event, end }: { event: PointerEvent; end: 'start' | 'end' }, laid: LaidClip): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('clip', laid.clip.id);
    this.capture(event);
    this.studio.play(false);
    this.drag = { kind: 'trim', laid, end, from: this.frameAt(event), gesture: newGesture() };
  }

  pressTitle(event: PointerEvent, title: Title, part: Part): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('title', title.id, event.ctrlKey || event.shiftKey);
    this.capture(event);
    this.drag = { kind: 'title', title, part, from: this.frameAt(event), gesture: newGesture() };
  }

  pressSound(event: PointerEvent, sound: Sound, part: Part): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.select('sound', sound.id, event.ctrlKey || event.shiftKey);
    this.capture(event);
    this.drag = { kind: 'sound', sound, part, from: this.frameAt(event), gesture: newGesture() };
  }

  pickKey(event: PointerEvent, path: string, frame: number): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    this.studio.pickKeys([{ path, frame }]);
    this.reel.goTo(frame);
  }

  dragTo(event: PointerEvent): void {
    const { drag } = this;
    if (!drag) return;
    switch (drag.kind) {
      case 'playhead':
        return this.reel.goTo(this.frameAt(event));
      case 'clip':
        return this.dragClip(drag, event);
      case 'trim': {
        const by = Math.round(this.frameAt(event) - drag.from);
        this.edits.trim(drag.laid, drag.end, by, drag.gesture);
        const laid = this.reel.laid(drag.laid.clip.id);
        // The frame that is cut at is what one looks at meanwhile.
        if (laid) this.reel.goTo(drag.end === 'start' ? laid.start : laid.start + laid.frames - 1);
        return;
      }
      case 'title':
        return this.dragTitle(drag, event);
      case 'sound':
        return this.dragSound(drag, event);
    }
  }

  private dragClip(drag: Extract<Drag, { kind: 'clip' }>, event: PointerEvent): void {
    const away = event.clientX - drag.x;
    if (!drag.moved && Math.abs(away) < SLACK) return;
    drag.moved = true;
    if (drag.slips) {
      const frames = this.x().invert(Math.abs(away)) - this.x().invert(0);
      this.edits.slip(drag.slips, -Math.sign(away) * Math.round(frames), drag.gesture);
      return;
    }
    this.held.set(drag.id);
    const at = this.frameAt(event);
    const others = this.reel.film().clips.filter(({ clip }) => clip.id !== drag.id);
    const place = others.filter(({ start, frames }) => start + frames / 2 < at).length;
    this.edits.move(drag.id, place, drag.gesture);
  }

  private dragTitle({ title, part, from, gesture }: Extract<Drag, { kind: 'title' }>, event: PointerEvent): void {
    const by = this.frameAt(event) - from;
    const end = title.start + title.length;
    const moved = Math.round(part === 'end' ? this.drawn(event, end + by) - end : this.drawn(event, title.start + by) - title.start); // prettier-ignore
    this.studio.edit(
      'Time of the title',
      ({ reel }) => {
        const own = reel.titles[title.id];
        if (!own) return;
        if (part !== 'end') own.start = nearest(TITLE.start, part === 'all' ? title.start + moved : Math.min(end - 1, title.start + moved)) as number; // prettier-ignore
        if (part === 'end') own.length = nearest(TITLE.length, title.length + moved) as number;
        if (part === 'start') own.length = nearest(TITLE.length, end - own.start) as number;
      },
      gesture,
    );
  }

  private dragSound({ sound, part, from, gesture }: Extract<Drag, { kind: 'sound' }>, event: PointerEvent): void {
    const { rate } = this.reel.film();
    const seconds = this.studio.document().assets[sound.asset]?.sound?.seconds ?? 0;
    const lasts = sound.lasts > 0 ? sound.lasts : seconds - sound.from;
    const by = this.frameAt(event) - from;
    const start = this.drawn(event, sound.start + by);
    this.studio.edit(
      'Time of the sound',
      ({ reel }) => {
        const own = reel.sounds[sound.id];
        if (!own) return;
        if (part === 'end') own.lasts = Math.min(seconds - sound.from, Math.max(0.1, lasts + by / rate));
        else own.start = nearest(SOUND.start, start) as number;
        if (part !== 'start') return;
        const skipped = Math.max(-sound.from, Math.min(lasts - 0.1, (own.start - sound.start) / rate));
        own.from = sound.from + skipped;
        own.lasts = lasts - skipped;
      },
      gesture,
    );
  }

  /** Drawn to the playhead and to where clips begin and end; with Ctrl it stays where it is. */
  private drawn(event: PointerEvent, frame: number): number {
    if (event.ctrlKey) return Math.round(frame);
    const { clips } = this.reel.film();
    const marks = [this.reel.restFrame(), ...clips.flatMap(({ start, frames }) => [start, start + frames])];
    const reach = this.x().invert(SNAP) - this.x().invert(0);
    const near = marks.find((mark) => Math.abs(mark - frame) <= reach);
    return near ?? Math.round(frame);
  }

  release(): void {
    const { drag } = this;
    this.drag = null;
    this.held.set(null);
    this.window.unpin();
    if (drag?.kind !== 'clip' || drag.moved) return;
    const laid = this.reel.laid(drag.id);
    const frame = this.reel.frame();
    if (laid && (frame < laid.start || frame >= laid.start + laid.frames)) this.reel.goTo(laid.start);
  }

  /** Arrows shift what is picked by a frame, with Shift by ten; clips change places, with Alt they slip. */
  nudge(event: KeyboardEvent, kind: 'clip' | 'title' | 'sound', id: string): void {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (event.key === 'Enter') this.studio.select(kind, id, event.ctrlKey);
    else if (way === 0) return;
    else if (kind === 'clip') {
      const laid = this.reel.laid(id);
      if (laid && event.altKey) this.edits.slip(laid, way * (event.shiftKey ? 10 : 1));
      else this.edits.moveBy(id, way);
    } else {
      const by = way * (event.shiftKey ? 10 : 1);
      this.studio.edit('Shift', ({ reel }) => {
        const own = kind === 'title' ? reel.titles[id] : reel.sounds[id];
        if (own) own.start = nearest(CLIP.from, own.start + by) as number;
      });
    }
    event.preventDefault();
    event.stopPropagation();
  }

  private wheel(event: WheelEvent): void {
    const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
    if (event.ctrlKey || event.metaKey) this.window.zoom(Math.exp(event.deltaY / 400), this.frameAt(event));
    else if (this.window.zoomed() && sideways !== 0) {
      const [from, to] = this.window.range();
      this.window.scroll((sideways / Math.max(1, this.width())) * (to - from));
    } else return;
    event.preventDefault();
  }

  zoomBy(factor: number): void {
    this.window.zoom(factor, this.reel.restFrame());
  }
}

/** Keys of a title, wherever one of its values has one. */
function keysOf({ id }: Title, tracks: Readonly<Record<string, Key[]>>): { path: string; frame: number }[] {
  return Object.entries(tracks).flatMap(([path, keys]) =>
    path.startsWith(`reel/titles/${id}/`) ? keys.map(({ frame }) => ({ path, frame })) : [],
  );
}
