import { inject, Injectable, signal } from '@angular/core';
import type { Finish, ProjectDocument } from '@zippy/core/document';
import { Studio } from '../studio';
import { finishIn } from './finish-shelf';

/** Puts one finish in the place of another wherever that is worn. */
@Injectable({ providedIn: 'root' })
export class FinishSwap {
  private readonly studio = inject(Studio);
  /** The finish in whose place another shall come: the next that is chosen. */
  readonly waiting = signal<string | null>(null);

  /** @param by a finish of the project by its id, or one of the shelf */
  replace(id: string, by: string | Partial<Finish>): void {
    this.waiting.set(null);
    const name = this.studio.document().finishes[id]?.name;
    if (name === undefined || by === id) return;
    this.studio.edit(`Replace ${name}`, (draft) => {
      exchange(draft, id, typeof by === 'string' ? by : finishIn(draft, by));
    });
  }
}

/** On parts and their labels, in rules of copies and in colourways. The finish itself stays in the project. */
function exchange(draft: ProjectDocument, from: string, to: string): void {
  const other = (id: string): string => (id === from ? to : id);
  for (const node of Object.values(draft.nodes)) {
    if (node.finish !== null) node.finish = other(node.finish);
    if (node.copies) node.copies.wears = node.copies.wears.map(other);
    for (const label of Object.values(node.labels)) if (label.finish !== null) label.finish = other(label.finish);
  }
  for (const { wears } of Object.values(draft.colourways)) {
    for (const [part, worn] of Object.entries(wears)) wears[part] = other(worn);
    // Rows of the table may be finishes, which are worn no more.
    if (from in wears && !(to in wears)) wears[to] = wears[from]!;
    delete wears[from];
  }
}
