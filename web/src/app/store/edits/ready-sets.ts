import { inject, Injectable, linkedSignal } from '@angular/core';
import { makeEdit, type ProjectDocument } from '@zippy/core/document';
import { luminance, type Lit } from '@zippy/core/optics';
import { applySet, surpriseSet, type ReadySet } from '@zippy/core/sets';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** Surprises that are remembered of a project. */
const MOST_SEEN = 24;
const keyOf = (project: string | null): string => `zippy-surprises-${project}`;

function seenOf(project: string | null): number[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(project)) ?? '[]');
    return Array.isArray(kept) ? kept.filter((seed): seed is number => Number.isInteger(seed)).slice(0, MOST_SEEN) : [];
  } catch {
    return [];
  }
}

/** Studios that stand at one click. */
@Injectable({ providedIn: 'root' })
export class ReadySets {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  /** Seeds of the surprises of this project that were seen in this browser, the newest first. */
  readonly seen = linkedSignal(() => seenOf(this.studio.project()));

  /** Puts up a set that was made up for the product, and remembers its seed. */
  surprise(seed = Math.floor(Math.random() * 1e6)): void {
    this.put(this.madeUp(seed));
    if (this.seen().includes(seed)) return;
    this.seen.update((seeds) => [seed, ...seeds].slice(0, MOST_SEEN));
    try {
      localStorage.setItem(keyOf(this.studio.project()), JSON.stringify(this.seen()));
    } catch {
      // A browser that keeps nothing shows those of this visit.
    }
  }

  madeUp(seed: number): ReadySet {
    return surpriseSet(seed, this.brightness());
  }

  /** Share of light that the product sends back, its parts weighed by their size. */
  private brightness(): number {
    const { finishes } = this.studio.frameStateAtRest();
    let [light, size] = [0, 0];
    for (const { node, finish } of this.productParts()) {
      const worn = finish === null ? undefined : finishes[finish];
      if (!worn) continue;
      const weight = this.bounds.around([node]).size ** 2;
      // Clear parts show what is behind them and what they mirror.
      light += weight * (worn.transmissionWeight > 0.5 ? 0.4 : luminance(worn.baseColor) * worn.baseWeight);
      size += weight;
    }
    return size > 0 ? light / size : 0.4;
  }

  private productParts() {
    const props = new Set(this.studio.document().set.ready?.nodes);
    return this.studio.frameStateAtRest().parts.filter(({ node }) => !props.has(node));
  }

  /** Puts a ready set in place of the set that is there. */
  put(ready: ReadySet): void {
    const lit = this.lit();
    this.studio.edit(`Set: ${ready.name}`, (draft) => applySet(draft, ready, lit));
    // What was selected may have gone with the former set.
    this.studio.selectAll([]);
  }

  /** The project as it would be with a ready set. */
  tried(ready: ReadySet): ProjectDocument {
    const lit = this.lit();
    return makeEdit(this.studio.document(), ready.name, (draft) => applySet(draft, ready, lit)).document;
  }

  /** The product without what a set brought along, and from where it is seen. */
  private lit(): Lit {
    const { center, size } = this.bounds.around(this.productParts().map(({ node }) => node));
    const eye = this.studio.frameStateAtRest().camera?.position ?? [center[0], center[1], center[2] + 3 * size];
    return { center, size, eye, floor: 0 };
  }
}
