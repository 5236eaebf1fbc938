import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { ProjectDocument, StudioSet } from '@zippy/core/document';
import { wrap } from 'comlink';
import { blobUrl } from '../api/urls';
import type { PaintedSurroundings, SurroundingsThread, SurroundingsWish } from './surroundings.worker';

/** Surroundings that are kept, so that going to and fro between shots paints nothing anew. */
const MOST_KEPT = 8;

/** Surroundings as the sketch and the mirror ball show them, each painted once in a thread of its own. */
@Injectable({ providedIn: 'root' })
export class SurroundingsPainter {
  private readonly worker = new Worker(new URL('./surroundings.worker', import.meta.url), { type: 'module' });
  private readonly thread = wrap<SurroundingsThread>(this.worker);
  private readonly kept = new Map<string, PaintedSurroundings | null>();
  private readonly asked = new Set<string>();
  /** Counts surroundings that have come. */
  readonly arrived = signal(0);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  /** What they are painted as, once that is there; until then null, and `arrived` tells when to ask again. */
  of(surroundings: StudioSet['surroundings'], assets: ProjectDocument['assets']): PaintedSurroundings | null {
    const asset = surroundings.picture ? assets[surroundings.picture] : undefined;
    const wish: SurroundingsWish = {
      // Turns and brightness paint no other picture.
      surroundings: { ...surroundings, turn: 0, tilt: 0, brightness: 1, tint: [1, 1, 1], color: [1, 1, 1] },
      file: asset ? { url: blobUrl(asset.hash), name: asset.sourceName } : null,
    };
    const key = JSON.stringify(wish);
    const known = this.kept.get(key);
    if (known === undefined && !this.asked.has(key)) void this.paint(key, wish);
    return known ?? null;
  }

  private async paint(key: string, wish: SurroundingsWish): Promise<void> {
    this.asked.add(key);
    this.kept.set(key, await this.thread.paint(wish));
    this.asked.delete(key);
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= MOST_KEPT) break;
      this.kept.delete(oldest);
    }
    this.arrived.update((count) => count + 1);
  }
}
