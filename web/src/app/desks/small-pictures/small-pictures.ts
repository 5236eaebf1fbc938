import { Injectable, signal } from '@angular/core';
import singleUrl from '@zippy/kernel/kernel.single.wasm';
import { wrap, type Remote } from 'comlink';
import type { SmallPicture, SmallPictureThread } from './small-pictures.worker';

/** A picture that is wished for: `shows` tells it from others in its place, and what is drawn is put together when its turn comes. */
export interface Wish {
  shows: string;
  draw: () => SmallPicture;
}

/** What asks for pictures; each of its pictures has a place of its own. */
export type Asker = 'finishes' | 'sets' | 'lights';

/** Pictures that are kept; older ones are drawn again when they are wanted. */
const KEPT = 200;

/** Small traced pictures: of finishes, of the product in ready sets, of what each light does. One worker of the page draws them in turn. */
@Injectable({ providedIn: 'root' })
export class SmallPictures {
  /** By asker and place. */
  private readonly drawn = signal<ReadonlyMap<string, { shows: string; address: string }>>(new Map());
  private readonly waiting = new Map<string, Wish>();
  /** What could not be drawn: it is not tried again. */
  private readonly failed = new Set<string>();
  private thread: Promise<Remote<SmallPictureThread>> | null = null;
  private busy = false;

  /** Address of the newest picture in a place, which may be of what was there before; undefined until there is one. */
  of(asker: Asker, place: string): string | undefined {
    return this.drawn().get(`${asker}/${place}`)?.address;
  }

  /** Wishes for pictures by their places. What the asker wished before and wishes no longer is forgotten. */
  want(asker: Asker, wishes: ReadonlyMap<string, Wish>): void {
    this.rest(asker);
    for (const [place, wish] of wishes) {
      const key = `${asker}/${place}`;
      if (this.drawn().get(key)?.shows !== wish.shows && !this.failed.has(`${key}/${wish.shows}`))
        this.waiting.set(key, wish);
    }
    void this.run();
  }

  /** Draws no more for an asker until it wishes again. */
  rest(asker: Asker): void {
    for (const key of [...this.waiting.keys()]) if (key.startsWith(`${asker}/`)) this.waiting.delete(key);
  }

  private async run(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (;;) {
      const [next] = this.waiting;
      if (!next) break;
      const [key, { shows, draw }] = next;
      this.waiting.delete(key);
      try {
        this.thread ??= this.begin();
        const address = await (await this.thread).draw(draw());
        this.keep(key, shows, address);
      } catch {
        // What cannot be drawn keeps its plain patch; the traced picture says why.
        this.failed.add(`${key}/${shows}`);
      }
    }
    this.busy = false;
  }

  private keep(key: string, shows: string, address: string): void {
    const all = new Map(this.drawn());
    const former = all.get(key);
    all.delete(key);
    all.set(key, { shows, address });
    const gone = [...all.entries()].slice(0, Math.max(0, all.size - KEPT));
    for (const [old] of gone) all.delete(old);
    this.drawn.set(all);
    for (const each of [former, ...gone.map(([, picture]) => picture)]) if (each) URL.revokeObjectURL(each.address);
  }

  private async begin(): Promise<Remote<SmallPictureThread>> {
    const worker = new Worker(new URL('./small-pictures.worker', import.meta.url), { type: 'module' });
    const thread = wrap<SmallPictureThread>(worker);
    await thread.begin(await WebAssembly.compileStreaming(fetch(singleUrl)));
    return thread;
  }
}
