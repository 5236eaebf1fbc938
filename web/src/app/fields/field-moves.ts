import { inject, Injectable, signal } from '@angular/core';
import type { MoveKind } from '@zippy/core/document';
import type { MoveStart } from '../kinds/moves';
import { Moves } from '../store/edits/moves';

/** Moves on the value of a field: what its menu offers, and where that is open. */
@Injectable({ providedIn: 'root' })
export class FieldMoves {
  private readonly moves = inject(Moves);
  readonly at = signal<{ x: number; y: number; label: string; paths: readonly string[] } | null>(null);

  open(event: MouseEvent, label: string, paths: readonly string[]): void {
    event.preventDefault();
    event.stopPropagation();
    const box = (event.target as Element).getBoundingClientRect();
    const pointed = event.clientX !== 0 || event.clientY !== 0;
    const [x, y] = pointed ? [event.clientX, event.clientY] : [box.left, box.bottom];
    this.at.set({ x, y, label, paths });
  }

  offered(): { kind: MoveKind; start: MoveStart }[] {
    return this.moves.kindsFor(this.at()?.paths[0] ?? '');
  }

  put({ kind, start }: { kind: MoveKind; start: MoveStart }): void {
    const paths = this.at()?.paths ?? [];
    this.moves.put(kind, paths, start);
  }
}
