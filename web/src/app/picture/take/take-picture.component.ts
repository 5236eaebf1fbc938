import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Api } from '../../api/api';
import { heldFrame } from '@zippy/core/document';
import { LAYER_RANGE, type Take } from '@zippy/core/wire';
import { Notices } from '../../store/notices';
import { ShownLayer } from '../../store/shown-layer';
import { Studio } from '../../store/studio';
import { PictureSeen } from '../scopes/picture-seen';
import { FrameCache } from './frame-cache';

/** Frames fetched ahead of one that is looked at. */
const AHEAD = 3;

/** The frames of a take: the one at the playhead as soon as it is there; while it plays, in the film's time. */
@Component({
  selector: 'zr-take-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      role="img"
      [attr.aria-label]="'Frame ' + shownFrame() + ' of take ' + take().number"
      [attr.data-frame]="shownFrame()"
      [attr.data-source]="source()"
      [class.picking]="layers.things()"
      (pointerdown)="layers.things() && $event.stopPropagation()"
      (pointerup)="layers.things() && $event.stopPropagation()"
      (click)="pick($event)"
    ></canvas>
    @if (!there()) {
      <p class="quiet" role="status">Frame {{ studio.frame() }} of take {{ take().number }} is not rendered yet.</p>
    } @else if (lost()) {
      <p class="quiet" role="status">
        Frame {{ studio.frame() }} could not be developed. Continue the take to render it again.
      </p>
    } @else if (shownFrame() === 0) {
      <p class="quiet" role="status">Developing the frame…</p>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
    }
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      object-fit: contain;
    }
    canvas.picking {
      cursor: crosshair;
    }
    p {
      position: absolute;
      inset: auto 0 48%;
      margin: 0;
      text-align: center;
    }
  `,
})
export class TakePictureComponent {
  readonly take = input.required<Take>();
  /** It is there to be compared with: the scopes do not read it, and its layers are not chosen. */
  readonly beside = input(false, { transform: booleanAttribute });
  private readonly seen = inject(PictureSeen);
  readonly studio = inject(Studio);
  private readonly api = inject(Api);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly layers = inject(ShownLayer);
  private readonly notices = inject(Notices);
  private readonly cache = new FrameCache<ImageBitmap>({ load: (url, signal) => this.load(url, signal) });
  /** What black and white stand for in the frames that are kept. */
  private readonly ranges = new Map<string, string>();
  private readonly changed = signal(0);
  /** The frame that is seen, 0 before there is one. */
  readonly shownFrame = signal(0);
  /** Address of the picture that is seen. */
  readonly source = signal('');
  /** Of its own: a take tells often how far it is, and what it shows stays. */
  private readonly id = computed(() => this.take().id);
  private readonly playing = computed(() => this.studio.playing());
  private readonly look = computed(() => JSON.stringify(this.studio.shownLook(this.studio.lookOf(this.take().id))));
  private readonly done = computed(() => new Set(this.take().done));
  /** Where frames are left out, the one before stands for them. */
  private readonly frame = computed(() => heldFrame(this.take(), Math.round(this.studio.frame())));
  readonly there = computed(() => this.done().has(this.frame()));
  readonly lost = computed(() => {
    this.changed();
    return this.cache.isLost(this.urlOf(this.frame()));
  });

  constructor() {
    this.cache.onChange = () => this.changed.update((count) => count + 1);
    inject(DestroyRef).onDestroy(() => this.cache.clear());
    // Another take or look: nothing of the one before is shown.
    effect(() => {
      const shown = [this.id(), this.look(), this.layers.instead()];
      void shown;
      untracked(() => {
        this.cache.clear();
        this.ranges.clear();
        this.shownFrame.set(0);
      });
    });
    effect(() => {
      this.done();
      untracked(() => this.cache.retry());
    });
    effect(() => {
      this.look();
      this.layers.instead();
      const [frame, playing] = [this.frame(), this.playing()];
      this.done();
      untracked(() => this.fetch(frame, playing));
    });
    effect(() => {
      this.changed();
      this.look();
      this.layers.instead();
      const [frame, playing, there] = [this.frame(), this.playing(), this.there()];
      untracked(() => this.draw(frame, playing, there));
    });
  }

  private urlOf = (frame: number): string =>
    this.api.frameUrl(this.take().id, frame, JSON.parse(this.look()), undefined, this.layers.instead());

  /** Asks for the frame itself and a few after it; while it plays for those that can come in time. */
  private fetch(frame: number, playing: boolean): void {
    const { first, last } = this.take();
    const length = last - first + 1;
    const from = playing ? this.cache.lead(this.studio.frameRate()) : 0;
    const count = Math.min(length, playing ? length : AHEAD + 1);
    const frames: { url: string; frame: number }[] = [];
    for (let k = 0; k < count; k++) {
      const next = first + ((((frame - first + from + k) % length) + length) % length);
      if (this.done().has(next)) frames.push({ url: this.urlOf(next), frame: next });
      // No more than can be needed soon: the list is made anew on the next frame.
      if (playing && frames.length > 60) break;
    }
    this.cache.want(frames, playing);
  }

  /** Draws the frame where it is there. While it plays, one that is late is left out; at rest, an old one is not shown for it. */
  private draw(frame: number, playing: boolean, there: boolean): void {
    const canvas = this.canvas().nativeElement;
    const picture = there ? this.cache.get(this.urlOf(frame)) : null;
    if (!picture) {
      if (playing && there) return;
      canvas.width = 1;
      this.shownFrame.set(0);
      return;
    }
    if (canvas.width !== picture.width) canvas.width = picture.width;
    if (canvas.height !== picture.height) canvas.height = picture.height;
    const context = canvas.getContext('2d')!;
    context.clearRect(0, 0, picture.width, picture.height);
    context.drawImage(picture, 0, 0);
    this.shownFrame.set(frame);
    const url = this.urlOf(frame);
    this.source.set(url);
    if (this.beside()) return;
    this.layers.range.set(this.ranges.get(url) ?? null);
    this.seen.drew('take', canvas);
  }

  private async load(url: string, signal: AbortSignal): Promise<ImageBitmap> {
    const response = await fetch(url, { signal });
    if (!response.ok) throw new Error(`The frame did not come (${response.status}).`);
    const range = response.headers.get(LAYER_RANGE);
    if (range) this.ranges.set(url, sayRange(range));
    return createImageBitmap(await response.blob());
  }

  /** Puts what was clicked into the matte, or takes it out. */
  async pick(event: MouseEvent): Promise<void> {
    const of = this.layers.things();
    if (!of || this.shownFrame() === 0) return;
    event.stopPropagation();
    const at = placeIn(this.canvas().nativeElement, event);
    if (!at) return;
    try {
      const found = await this.api.probeFrame(this.take().id, this.shownFrame(), at.x, at.y);
      const name = of === 'parts' ? found.part : found.finish;
      if (name !== null) this.layers.toggle(name);
    } catch (error) {
      this.notices.tell(error);
    }
  }
}

/** Where in its picture a canvas that contains it was pressed, in parts of width and height; null beside it. */
function placeIn(canvas: HTMLCanvasElement, { clientX, clientY }: MouseEvent): { x: number; y: number } | null {
  const box = canvas.getBoundingClientRect();
  const scale = Math.min(box.width / canvas.width, box.height / canvas.height);
  const x = (clientX - box.left - (box.width - canvas.width * scale) / 2) / (canvas.width * scale);
  const y = (clientY - box.top - (box.height - canvas.height * scale) / 2) / (canvas.height * scale);
  return x >= 0 && y >= 0 && x < 1 && y < 1 ? { x, y } : null;
}

/** `low high unit` in words. */
function sayRange(range: string): string {
  const [low, high, unit] = range.split(' ');
  const say = (value: string | undefined) => Number(Number(value).toPrecision(3));
  return `${say(low)} to ${say(high)} ${unit}`;
}
