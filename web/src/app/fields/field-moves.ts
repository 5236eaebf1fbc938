import { inject, Injectable, signal } from '@angular/core';
import { propertyAt, type MoveKind, type Shot, type Value } from '@zippy/core/document';
import type { MoveStart } from '../kinds/moves';
import { Moves } from '../store/edits/moves';
import { Studio } from '../store/studio';

/** Moves on the value of a field: what its menu offers, and where that is open. */
@Injectable({ providedIn: 'root' })
export class FieldMoves {
  private readonly studio = inject(Studio);
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

  /** What can be taken back from the values of the field. */
  actions(): { name: string; run: () => void }[] {
    const { paths } = this.at() ?? { paths: [] };
    const shot = this.studio.shot();
    const inShot = (label: string, change: (draft: Shot, path: string) => void) => () =>
      this.studio.edit(label, (draft) => {
        const own = shot && draft.shots[shot.id];
        if (own) for (const path of paths) change(own, path);
      });
    const has = (record: object | undefined) => paths.some((path) => Object.hasOwn(record ?? {}, path));
    return [
      ...(has(shot?.changes)
        ? [
            {
              name: 'Back to its resting value',
              run: inShot('Back to rest', ({ changes }, path) => void delete changes[path]),
            },
          ]
        : []),
      ...(has(shot?.tracks)
        ? [
            {
              name: 'Take its keys away',
              run: inShot('Take keys away', ({ tracks }, path) => void delete tracks[path]),
            },
          ]
        : []),
      {
        name: 'As new ones have it',
        run: () =>
          this.studio.setProperties(
            'Reset',
            Object.fromEntries(paths.map((path) => [path, propertyAt(path)?.default as Value])),
          ),
      },
    ];
  }

  put({ kind, start }: { kind: MoveKind; start: MoveStart }): void {
    const paths = this.at()?.paths ?? [];
    this.moves.put(kind, paths, start);
  }
}
