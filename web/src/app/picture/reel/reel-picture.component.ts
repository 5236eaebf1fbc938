import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { Look } from '@zippy/core/document';
import {
  drawTitles,
  filmPicture,
  placeIn,
  titlesAt,
  type FilmPicture,
  type LaidClip,
  type SourceShare,
} from '@zippy/core/reel';
import { Api } from '../../api/api';
import { blobUrl, filmedUrl } from '../../api/urls';
import { ReelFilm } from '../../store/reel/reel-film';
import { ReelSound } from '../../store/reel/reel-sound';
import { TitleOutlines } from '../../store/reel/title-outlines';
import { Studio } from '../../store/studio';
import { newGesture } from '../../ui/gesture';
import { FrameCache } from '../take/frame-cache';
import { paintFilm } from './reel-painter';

/** Frames fetched ahead of one that is played. */
const AHEAD_PLAYING = 60;
const AHEAD_RESTING = 400;
/** Pixels of frames that are made ready for playing while one looks: what the cache keeps, and a little less. */
const READY_PIXELS = 110_000_000;
/** Widths that frames are asked for in: few, so that a panel that is resized asks for no new ones. */
const WIDTHS = [480, 960];

/** Stands for no look. */
const AS_IT_IS = {};

/** A title that is dragged. */
interface Held {
  id: string;
  at: { x: number; y: number };
  from: { x: number; y: number };
  gesture: string;
}

/** The film that the reel is put together to, on the frame of its playhead. */
@Component({
  selector: 'zr-reel-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="film" [class.waiting]="drawn() === 0" [style.aspect-ratio]="size().width + ' / ' + size().height">
      <canvas
        #canvas
        role="img"
        [attr.aria-label]="'Frame ' + drawn() + ' of the film'"
        [attr.data-frame]="drawn()"
        [class.aiming]="reel.aiming() !== null"
        (click)="aim($event)"
      ></canvas>
      <div
        #titles
        class="titles"
        (pointerdown)="hold($event)"
        (pointermove)="drag($event)"
        (pointerup)="held = null"
        (pointercancel)="held = null"
      ></div>
      @if (studio.document().reel.safeAreas) {
        <div class="safe action" title="Inside of this nothing is cut off"></div>
        <div class="safe words" title="Inside of this words can be read everywhere"></div>
      }
    </div>
    @if (missing(); as words) {
      <p class="quiet" role="status">{{ words }}</p>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      display: grid;
      place-items: center;
      background: var(--surround);
      container-type: size;
    }
    .film {
      position: relative;
      width: min(100cqw, 100cqh * var(--shape));
      background: repeating-conic-gradient(#6d6d6e 0 25%, #7d7d7e 0 50%) 0 0 / 16px 16px;
    }
    .film.waiting {
      background: none;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
    canvas.aiming {
      cursor: crosshair;
      position: relative;
      z-index: 1;
    }
    .titles {
      position: absolute;
      inset: 0;
      pointer-events: none;
    }
    .titles ::ng-deep svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .titles ::ng-deep g[data-title] {
      pointer-events: all;
      cursor: move;
    }
    .safe {
      position: absolute;
      border: 1px dashed #fffb;
      mix-blend-mode: difference;
      pointer-events: none;
    }
    .action {
      inset: 3.5%;
    }
    .words {
      inset: 5%;
    }
    p {
      position: absolute;
      inset: auto 0 12px;
      margin: 0 auto;
      width: fit-content;
      padding: 4px 10px;
      border-radius: 6px;
      background: var(--panel);
    }
  `,
  host: { '[style.--shape]': 'size().width / size().height' },
})
export class ReelPictureComponent {
  readonly studio = inject(Studio);
  readonly reel = inject(ReelFilm);
  private readonly api = inject(Api);
  private readonly outlines = inject(TitleOutlines);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly titles = viewChild.required<ElementRef<HTMLElement>>('titles');
  private readonly cache = new FrameCache<ImageBitmap>({ load });
  private readonly changed = signal(0);
  /** The frame that is seen, 0 before there is one. */
  readonly drawn = signal(0);
  readonly size = computed(() => this.reel.film().size);
  readonly missing = computed(() => {
    this.changed();
    const made = filmPicture(this.reel.film(), this.reel.restFrame());
    const gone = made.shown.find(({ laid }) => laid.source.fault === 'gone' || laid.source.fault === 'not-rendered');
    if (gone) return gone.laid.source.fault === 'gone' ? gone.laid.source.name : `${gone.laid.source.name} is not rendered yet.`; // prettier-ignore
    const lost = made.shown.some((shown) => shown.frames.some(({ frame }) => this.cache.isLost(this.urlOf(shown.laid, frame, false) ?? ''))); // prettier-ignore
    if (lost) return 'A frame of this clip is not rendered yet, or did not come.';
    return this.drawn() === 0 ? 'Developing the frame…' : null;
  });
  private drawnTitles = '';
  held: Held | null = null;

  constructor() {
    inject(ReelSound);
    this.cache.onChange = () => this.changed.update((count) => count + 1);
    inject(DestroyRef).onDestroy(() => this.cache.clear());
    effect(() => {
      this.studio.takes();
      untracked(() => this.cache.retry());
    });
    effect(() => {
      this.reel.film();
      const [frame, playing] = [this.reel.frame(), this.studio.playing()];
      untracked(() => this.fetch(frame, playing));
    });
    effect(() => {
      this.changed();
      const [film, frame, playing] = [this.reel.film(), this.reel.frame(), this.studio.playing()];
      untracked(() => this.draw(filmPicture(film, frame), frame, playing));
    });
    effect(() => {
      this.outlines.come();
      const svg = this.svgAt(this.reel.frame());
      untracked(() => this.showTitles(svg));
    });
  }

  private lookOf({ clip, source }: LaidClip): Look | null {
    const { of } = source;
    return clip.look ?? (of && 'take' in of ? this.studio.lookOf(of.take.id) : null);
  }

  /** Width in which frames are asked for: what the picture has room for, or all where they are shown pixel for pixel. */
  private readonly width = computed(() => {
    const room = Math.min(this.size().width, WIDTHS.at(-1)!);
    return WIDTHS.find((width) => width >= room)!;
  });
  /** And of those that are played: smaller ones of a long film, so that all of it stays ready. */
  private readonly quickWidth = computed(() => {
    const { width, height } = this.size();
    const pixels = this.reel.frames() * this.width() ** 2 * (height / width);
    return pixels <= READY_PIXELS ? this.width() : WIDTHS[0]!;
  });

  /** A look goes in every address, and is long: what is known of one is kept as long as it is the same. */
  private readonly addresses = new WeakMap<object, Map<string, string>>();

  /** @param quick as it is played: not cleaned, which takes most of the time */
  private urlOf(laid: LaidClip, frame: number, quick: boolean): string | null {
    const { clip, source } = laid;
    if (!source.of) return null;
    const wide = clip.fit === 'trueSize' || clip.zoom > 1.5;
    const width = wide ? undefined : quick ? this.quickWidth() : this.width();
    const own = this.lookOf(laid);
    const known = this.addresses.get(own ?? AS_IT_IS) ?? new Map<string, string>();
    this.addresses.set(own ?? AS_IT_IS, known);
    const { of } = source;
    const key = `${'take' in of ? of.take.id : of.asset.hash} ${frame} ${width} ${quick}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const look = own && quick ? { ...own, denoise: 0, specks: 0 } : own;
    const url =
      'take' in of
        ? this.api.frameUrl(of.take.id, frame, look!, width && width < of.take.settings.width ? width : undefined)
        : filmedUrl(of.asset.footage!.frames[frame - 1]!, look, width);
    known.set(key, url);
    return url;
  }

  /**
   * Asks for what the frame needs; while it plays for what can come in time, and at rest for the rest of the film as it is played, so that
   * it plays at once. While a take is rendered that has to wait: it would take the machine from it.
   */
  private fetch(frame: number, playing: boolean): void {
    const film = this.reel.film();
    const wanted = new Map<string, number>();
    const want = (at: number, quick: boolean) => {
      for (const { laid, frames } of filmPicture(film, at).shown)
        for (const share of frames) {
          const url = this.there(laid, share) ? this.urlOf(laid, share.frame, quick) : null;
          if (url && !wanted.has(url)) wanted.set(url, at);
        }
    };
    if (!playing) want(frame, false);
    const busy = this.studio.working() !== null;
    const lead = playing ? this.cache.lead(film.rate) : 0;
    const count = Math.min(film.frames, playing ? AHEAD_PLAYING : busy ? 0 : AHEAD_RESTING);
    for (let k = 0; k < count; k++) want(((frame - 1 + (k > 0 ? lead + k - 1 : 0)) % film.frames) + 1, true);
    this.cache.want([...wanted].map(([url, at]) => ({ url, frame: at })), playing); // prettier-ignore
  }

  private there({ source }: LaidClip, { frame }: SourceShare): boolean {
    const { of } = source;
    return of !== null && (!('take' in of) || of.take.done.includes(frame));
  }

  /** While it plays, a frame that is late is left out; at rest an old one is not shown for it. */
  private draw(made: FilmPicture, frame: number, playing: boolean): void {
    const canvas = this.canvas().nativeElement;
    const { width, height } = this.size();
    const scale = Math.min(1, this.width() / width);
    const [wide, high] = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
    if (canvas.width !== wide) canvas.width = wide;
    if (canvas.height !== high) canvas.height = high;
    const painted = paintFilm(canvas, made, this.size(), scale, ({ laid, frames }) => this.picturesOf(laid, frames));
    if (painted) this.drawn.set(frame);
    else if (!playing) {
      canvas.getContext('2d')!.clearRect(0, 0, wide, high);
      this.drawn.set(0);
    }
  }

  /** Each cleaned where that is there, and else as it is played. */
  private picturesOf(laid: LaidClip, frames: SourceShare[]): { picture: ImageBitmap; share: number }[] | null {
    if (!laid.source.of) return [];
    const picture = (frame: number) => this.cache.get(this.urlOf(laid, frame, false)!) ?? this.cache.get(this.urlOf(laid, frame, true)!); // prettier-ignore
    const found = frames.map((each) => ({ share: each.share, picture: picture(each.frame) }));
    return found.every((each): each is { share: number; picture: ImageBitmap } => each.picture !== null) ? found : null;
  }

  private svgAt(frame: number): string {
    const { assets } = this.studio.document();
    return drawTitles(titlesAt(this.reel.film().reel, frame), this.size(), {
      outline: (title) => this.outlines.of(title),
      picture: (asset) => (assets[asset] ? blobUrl(assets[asset].hash) : null),
    });
  }

  /** The drawing itself and not a picture of it: it is sharp in every size, and its parts can be held. */
  private showTitles(svg: string): void {
    if (svg === this.drawnTitles) return;
    this.drawnTitles = svg;
    const host = this.titles().nativeElement;
    if (svg === '') return host.replaceChildren();
    host.replaceChildren(document.importNode(new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement, true)); // prettier-ignore
  }

  hold(event: PointerEvent): void {
    const id = (event.target as Element).closest<SVGElement>('g[data-title]')?.dataset['title'];
    if (id === undefined || event.button !== 0) return;
    event.stopPropagation();
    this.titles().nativeElement.setPointerCapture(event.pointerId);
    this.studio.select('title', id);
    const [x, y] = [this.studio.valueOnReel(`reel/titles/${id}/x`), this.studio.valueOnReel(`reel/titles/${id}/y`)];
    this.held = { id, at: { x: event.clientX, y: event.clientY }, from: { x: Number(x), y: Number(y) }, gesture: newGesture() }; // prettier-ignore
  }

  drag(event: PointerEvent): void {
    const { held } = this;
    if (!held) return;
    const box = this.titles().nativeElement.getBoundingClientRect();
    // With Shift along one axis alone.
    let [dx, dy] = [(event.clientX - held.at.x) / box.width, (event.clientY - held.at.y) / box.height];
    if (event.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
    const place = (from: number, by: number) => Math.round((from + by) * 1000) / 1000;
    this.studio.setProperties(
      'Place of the title',
      { [`reel/titles/${held.id}/x`]: place(held.from.x, dx), [`reel/titles/${held.id}/y`]: place(held.from.y, dy) },
      held.gesture,
    );
  }

  /** The point that was clicked is the one of its clip that counts. */
  aim(event: MouseEvent): void {
    const id = this.reel.aiming();
    const laid = id === null ? null : this.reel.laid(id);
    if (!laid) return;
    event.stopPropagation();
    this.reel.aiming.set(null);
    const box = this.canvas().nativeElement.getBoundingClientRect();
    const size = this.size();
    const place = placeIn(laid.source.size ?? size, size, laid.clip);
    const part = (at: number, length: number, room: number, from: number, wide: number) =>
      Math.min(1, Math.max(0, ((at / length) * room - from) / wide));
    const aimX = part(event.clientX - box.left, box.width, size.width, place.x, place.width);
    const aimY = part(event.clientY - box.top, box.height, size.height, place.y, place.height);
    this.studio.edit('Point that counts', ({ reel }) => {
      const clip = reel.clips[laid.clip.id];
      if (clip) Object.assign(clip, { aimX: Math.round(aimX * 1000) / 1000, aimY: Math.round(aimY * 1000) / 1000 });
    });
  }
}

async function load(url: string, signal: AbortSignal): Promise<ImageBitmap> {
  const response = await fetch(url, { signal });
  if (!response.ok) throw new Error(`The frame did not come (${response.status}).`);
  return createImageBitmap(await response.blob());
}
