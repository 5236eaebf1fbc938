import { effect, inject, Injectable, InjectionToken, signal, untracked } from '@angular/core';
import type { Look } from '@zippy/core/document';
import { transfer, wrap, type Remote } from 'comlink';
import type { Measured, ScopeKind } from './measure';
import type { ScopesThread } from './scopes.worker';

type Thread = Remote<ScopesThread> | ScopesThread;

/** The thread that measures the picture, begun when it is first needed. */
export const SCOPES_THREAD = new InjectionToken<() => Thread>('SCOPES_THREAD', {
  factory: () => () => wrap<ScopesThread>(new Worker(new URL('./scopes.worker', import.meta.url), { type: 'module' })),
});

/** Who draws a picture. */
export type Drawer = 'sketch' | 'traced' | 'take';

export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

interface Drawn {
  canvas: HTMLCanvasElement;
  /** What of the canvas is the picture, in parts of it; all where nothing is said. */
  part: Box | null;
}

/** Milliseconds from one look at a picture that keeps changing to the next. */
const PAUSE = 80;

/** The picture that lies on top, measured while somebody looks at the scopes. */
@Injectable({ providedIn: 'root' })
export class PictureSeen {
  private readonly begin = inject(SCOPES_THREAD);
  private thread: Thread | null = null;
  private readonly drawn = new Map<Drawer, Drawn>();
  private busy = false;
  private missed = false;
  /** Scopes are open. */
  readonly watching = signal(false);
  readonly kind = signal<ScopeKind>('histogram');
  /** What is clipped is marked in the picture. */
  readonly marked = signal(false);
  /** Who draws what lies on top. */
  readonly top = signal<Drawer>('sketch');
  readonly measured = signal<Measured | null>(null);
  /** Someone waits for the next picture that is drawn, which is held for them. */
  private afterDraw: (() => void) | null = null;
  private held: ImageBitmap | null = null;
  /** A sketch is read while it is drawn: it is asked to draw again. */
  redraw: () => void = () => undefined;

  constructor() {
    effect(() => {
      const [watching] = [this.watching(), this.kind(), this.top()];
      untracked(() => {
        if (watching) this.look();
        else this.measured.set(null);
      });
    });
  }

  /** Told by who draws, right after it has: what a graphics card has drawn is gone soon. */
  drew(drawer: Drawer, canvas: HTMLCanvasElement, part: Box | null = null): void {
    this.drawn.set(drawer, { canvas, part });
    if (drawer !== this.top()) return;
    const { afterDraw } = this;
    if (afterDraw) {
      this.afterDraw = null;
      void this.grab().then((bitmap) => {
        this.held = bitmap;
        afterDraw();
      });
    }
    if (this.watching()) void this.measure();
  }

  private look(): void {
    if (this.top() === 'sketch') this.redraw();
    else void this.measure();
  }

  private async measure(): Promise<void> {
    if (this.busy) {
      this.missed = true;
      return;
    }
    this.busy = true;
    this.missed = false;
    try {
      const bitmap = await this.grab();
      if (!bitmap) return;
      this.thread ??= this.begin();
      const measured = (await this.thread.measure(transfer(bitmap, [bitmap]), this.kind())) as Measured;
      if (this.watching()) this.measured.set(measured);
    } catch {
      // A canvas that is gone by now has nothing to say; the next one has.
    } finally {
      setTimeout(() => {
        this.busy = false;
        if (this.missed && this.watching()) this.look();
      }, PAUSE);
    }
  }

  /** The picture that lies on top, as its canvas has it now. */
  private async grab(): Promise<ImageBitmap | null> {
    const found = this.drawn.get(this.top());
    if (!found || found.canvas.width < 2) return null;
    const { canvas, part } = found;
    const { left, top, width, height } = part ?? { left: 0, top: 0, width: 1, height: 1 };
    return createImageBitmap(
      canvas,
      Math.round(left * canvas.width),
      Math.round(top * canvas.height),
      Math.max(1, Math.round(width * canvas.width)),
      Math.max(1, Math.round(height * canvas.height)),
    );
  }

  /** Stops by which the exposure of a look would have to change for what is seen; null where nothing is. */
  async meter(look: Look): Promise<number | null> {
    const bitmap = await this.take();
    if (!bitmap) return null;
    this.thread ??= this.begin();
    await this.thread.measure(transfer(bitmap, [bitmap]), 'histogram');
    return this.thread.meter(look);
  }

  /** What is seen, as a PNG; null where nothing is drawn. A sketch is drawn once more for it. */
  async snapshot(): Promise<Blob | null> {
    const bitmap = await this.take();
    if (!bitmap) return null;
    const board = new OffscreenCanvas(bitmap.width, bitmap.height);
    board.getContext('2d')!.drawImage(bitmap, 0, 0);
    bitmap.close();
    return board.convertToBlob({ type: 'image/png' });
  }

  /** What is seen now. */
  private async take(): Promise<ImageBitmap | null> {
    if (this.top() !== 'sketch') return this.grab();
    const drawn = new Promise<void>((resolve) => (this.afterDraw = resolve));
    this.redraw();
    await drawn;
    const { held } = this;
    this.held = null;
    return held;
  }

  /** What is seen at a place, in parts of the picture's width and height. */
  async at(x: number, y: number): Promise<[number, number, number, number] | null> {
    return (await this.thread?.at(x, y)) ?? null;
  }
}
