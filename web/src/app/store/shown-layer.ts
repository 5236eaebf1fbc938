import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Matte } from '@zippy/core/develop';
import { Api, type ShownInstead } from '../api/api';
import { Studio } from './studio';

/** Layers in which things are told apart, so that a matte can be made of some. */
const THINGS: Readonly<Record<string, Matte['of']>> = { parts: 'parts', finishes: 'finishes' };

/** Which layer of the take is looked at, and what a matte is made of. */
@Injectable({ providedIn: 'root' })
export class ShownLayer {
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  /** The take that is seen, or would be: the chosen one, or the newest of the shot. */
  readonly take = computed(() => {
    const [takes, shown, shot] = [this.studio.takes(), this.studio.shownTake(), this.studio.shotId()];
    return takes.find(({ id }) => id === shown) ?? [...takes].reverse().find((take) => take.shot === shot) ?? null;
  });
  /** Null is the picture itself. */
  readonly layer = signal<string | null>(null);
  /** Names of what the matte is made of. */
  readonly names = signal<readonly string[]>([]);
  /** The matte is seen, not the colours of what it can be made of. */
  readonly matteSeen = signal(false);
  /** Layers that the take keeps. */
  readonly there = signal<readonly string[]>([]);
  /** What black and white stand for. */
  readonly range = signal<string | null>(null);
  readonly things = computed(() => THINGS[this.layer() ?? ''] ?? null);
  readonly instead = computed((): ShownInstead => {
    const [layer, of, names] = [this.layer(), this.things(), this.names()];
    if (layer === null) return {};
    return of && this.matteSeen() && names.length > 0 ? { matte: { of, names } } : { layer };
  });

  constructor() {
    const wanted = computed(() => {
      const take = this.take();
      return take && this.studio.grade() === 'take' && take.done.length > 0 ? take.id : null;
    });
    effect(() => {
      const take = wanted();
      if (take === null) return;
      void this.api.takeLayers(take).then(
        (layers) => {
          if (untracked(wanted) !== take) return;
          this.there.set(layers);
          // Another take need not keep what was looked at.
          if (!layers.includes(this.layer() ?? '')) this.choose(null);
        },
        () => this.there.set([]),
      );
    });
  }

  choose(layer: string | null): void {
    if (layer === this.layer()) return;
    this.layer.set(layer);
    this.names.set([]);
    this.matteSeen.set(false);
    this.range.set(null);
  }

  /** Puts a thing into the matte, or takes it out. */
  toggle(name: string): void {
    this.names.update((names) => (names.includes(name) ? names.filter((each) => each !== name) : [...names, name]));
    if (this.names().length === 0) this.matteSeen.set(false);
  }
}
