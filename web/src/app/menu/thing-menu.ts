import { inject, Injectable, signal } from '@angular/core';
import type { KeyMark, Selected } from '../store/view/view.state';
import { Studio } from '../store/studio';

/** The context menu of what is selected: where it is open. */
@Injectable({ providedIn: 'root' })
export class ThingMenu {
  private readonly studio = inject(Studio);
  readonly at = signal<{ x: number; y: number } | null>(null);
  /** What lies behind it under the pointer. */
  readonly behind = signal<readonly (Selected & { name: string })[]>([]);

  /**
   * Opens it for a thing, which is selected unless it is one of several that are.
   * @param behind what else lies under the pointer, and can be selected instead
   */
  openFor(
    event: MouseEvent,
    what: Selected | { key: KeyMark } | null,
    behind: readonly (Selected & { name: string })[] = [],
  ): void {
    this.behind.set(behind);
    event.preventDefault();
    event.stopPropagation();
    const { studio } = this;
    if (what && 'key' in what) {
      const { path, frame } = what.key;
      const picked = studio.keys().some((mark) => mark.path === path && mark.frame === frame);
      if (!picked) studio.pickKeys([what.key]);
    } else if (what && !(studio.selectedIds().has(what.id) && studio.keys().length === 0)) {
      studio.pickKeys([]);
      studio.select(what.kind, what.id);
    }
    // By the keyboard there is no pointer: it opens at the thing itself.
    const box = (event.target as Element).getBoundingClientRect();
    const pointed = event.clientX !== 0 || event.clientY !== 0;
    this.at.set(pointed ? { x: event.clientX, y: event.clientY } : { x: box.left + 12, y: box.bottom });
  }
}
