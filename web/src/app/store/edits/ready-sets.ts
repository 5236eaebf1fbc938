import { inject, Injectable } from '@angular/core';
import { makeEdit, type ProjectDocument } from '@zippy/core/document';
import type { Lit } from '@zippy/core/optics';
import { applySet, type ReadySet } from '@zippy/core/sets';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** Studios that stand at one click. */
@Injectable({ providedIn: 'root' })
export class ReadySets {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

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
    const { set } = this.studio.document();
    const props = new Set(set.ready?.nodes);
    const parts = this.studio.frameStateAtRest().parts.map(({ node }) => node).filter((node) => !props.has(node)); // prettier-ignore
    const { center, size } = this.bounds.around(parts);
    const eye = this.studio.frameStateAtRest().camera?.position ?? [center[0], center[1], center[2] + 3 * size];
    return { center, size, eye, floor: 0 };
  }
}
