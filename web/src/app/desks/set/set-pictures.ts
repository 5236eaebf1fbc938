import { Injectable, signal } from '@angular/core';
import singleUrl from '@zippy/kernel/kernel.single.wasm';
import { wrap, type Remote } from 'comlink';
import type { SetThread, SetWish } from './set-pictures.worker';

/** Small pictures of the product in ready sets, traced by a worker of the page one after another. */
@Injectable({ providedIn: 'root' })
export class SetPictures {
  /** Addresses by the name of the set. */
  private readonly drawn = signal<ReadonlyMap<string, string>>(new Map());
  private waiting = new Map<string, () => SetWish>();
  /** What the pictures show: the product, as it was when they were wished. */
  private of = '';
  private thread: Promise<Remote<SetThread>> | null = null;
  private busy = false;

  /** Address of the picture of a set; undefined until it is there. */
  picture(name: string): string | undefined {
    return this.drawn().get(name);
  }

  /** Wishes for pictures of all sets, made anew where they show something else. @param product what they show, as a digest */
  want(product: string, wishes: ReadonlyMap<string, () => SetWish>): void {
    if (product === this.of) return;
    this.of = product;
    this.waiting = new Map(wishes);
    void this.run();
  }

  /** Draws no more until it is wished again. */
  rest(): void {
    if (this.waiting.size > 0) this.of = '';
    this.waiting.clear();
  }

  private async run(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (;;) {
      const [next] = this.waiting;
      if (!next) break;
      const [name, wish] = next;
      this.waiting.delete(name);
      try {
        this.thread ??= this.begin();
        const address = await (await this.thread).draw(wish());
        const former = this.drawn().get(name);
        this.drawn.update((all) => new Map([...all, [name, address]]));
        if (former) URL.revokeObjectURL(former);
      } catch {
        // A set whose picture cannot be drawn is told by its name; the traced picture says why.
      }
    }
    this.busy = false;
  }

  private async begin(): Promise<Remote<SetThread>> {
    const worker = new Worker(new URL('./set-pictures.worker', import.meta.url), { type: 'module' });
    const thread = wrap<SetThread>(worker);
    await thread.begin(await WebAssembly.compileStreaming(fetch(singleUrl)));
    return thread;
  }
}
