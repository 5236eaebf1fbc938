import { Injectable, signal } from '@angular/core';
import type { Finish } from '@zippy/core/document';
import type { SampleGround } from '@zippy/core/shelf';
import singleUrl from '@zippy/kernel/kernel.single.wasm';
import { wrap, type Remote } from 'comlink';
import type { FinishThread, FinishWish } from './finish-pictures.worker';

/** Pictures that are kept; older ones are drawn again when they are wanted. */
const KEPT = 120;

/** Small pictures of finishes as they are at present, traced by a worker of the page, one after another and each look once. */
@Injectable({ providedIn: 'root' })
export class FinishPictures {
  /** Addresses of pictures by the look they show. */
  private readonly drawn = signal<ReadonlyMap<string, string>>(new Map());
  private readonly waiting = new Map<string, FinishWish>();
  private readonly failed = new Set<string>();
  private thread: Promise<Remote<FinishThread>> | null = null;
  private busy = false;

  /** Address of the picture of a look; undefined until it is there. */
  of(look: string): string | undefined {
    return this.drawn().get(look);
  }

  /** Wishes for pictures: what waits and is wished no longer is forgotten. */
  want(wishes: ReadonlyMap<string, FinishWish>): void {
    this.waiting.clear();
    for (const [look, wish] of wishes)
      if (!this.drawn().has(look) && !this.failed.has(look)) this.waiting.set(look, wish);
    void this.run();
  }

  private async run(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (;;) {
      const [next] = this.waiting;
      if (!next) break;
      const [look, wish] = next;
      this.waiting.delete(look);
      try {
        this.thread ??= this.begin();
        const address = await (await this.thread).draw(wish);
        const all = new Map([...this.drawn(), [look, address]]);
        for (const [old, gone] of [...all].slice(0, Math.max(0, all.size - KEPT))) {
          URL.revokeObjectURL(gone);
          all.delete(old);
        }
        this.drawn.set(all);
      } catch {
        // A finish whose picture cannot be drawn keeps its plain patch; the traced picture says why.
        this.failed.add(look);
      }
    }
    this.busy = false;
  }

  private async begin(): Promise<Remote<FinishThread>> {
    const worker = new Worker(new URL('./finish-pictures.worker', import.meta.url), { type: 'module' });
    const thread = wrap<FinishThread>(worker);
    await thread.begin(await WebAssembly.compileStreaming(fetch(singleUrl)));
    return thread;
  }
}

/** What tells how a finish looks on the sample body: all but what it is called. */
export const lookOf = (finish: Finish, ground: SampleGround = 'bright'): string => {
  const looks = Object.entries(finish).filter(([property]) => property !== 'id' && property !== 'name');
  return `${ground}/${JSON.stringify(looks)}`;
};
