import { computed, inject, Injectable } from '@angular/core';
import { inOrder, newCopies, newId, subtree, type ProjectDocument } from '@zippy/core/document';
import { isEmpty } from '@zippy/core/geometry';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** From one of a line-up to the next, in widths of the product. */
const ROOM = 1.25;

/** A part or a finish that variants dress differently. */
export interface ColourwayRow {
  id: string;
  kind: 'node' | 'finish';
  name: string;
  /** What it wears without a variant. */
  resting: string | null;
  /** By variant; those that leave it as it is are missing. */
  wears: Record<string, string>;
}

/** Variants of the product: what parts wear in each. */
@Injectable({ providedIn: 'root' })
export class Colourways {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  readonly all = computed(() =>
    Object.entries(this.studio.document().colourways)
      .map(([id, colourway]) => ({ id, ...colourway }))
      .sort((a, b) => a.order - b.order),
  );
  /** The one that is shown in the present shot; finishes that are put on go into it. */
  readonly shown = computed(() => {
    const { colourway, colourways } = this.studio.document();
    const id = this.studio.shot()?.colourway ?? colourway;
    return id !== null && colourways[id] ? id : null;
  });
  readonly rows = computed((): ColourwayRow[] => {
    const document = this.studio.document();
    const rows = new Map<string, ColourwayRow>();
    for (const { id: colourway, wears } of this.all()) {
      for (const [id, finish] of Object.entries(wears)) {
        const row = rows.get(id) ?? rowOf(document, id);
        if (!row || !document.finishes[finish]) continue;
        row.wears[colourway] = finish;
        rows.set(id, row);
      }
    }
    return [...rows.values()].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  });

  /** Shows a variant, or the product as it is dressed itself. A shot that has its own keeps that only where it is the one. */
  show(id: string | null): void {
    const shot = this.studio.shotId();
    this.studio.edit('Show a colourway', (draft) => {
      draft.colourway = id;
      if (shot && draft.shots[shot]?.colourway !== null) draft.shots[shot]!.colourway = id;
    });
  }

  /** A new variant, which begins as what is shown at present and is shown from now on. */
  add(): void {
    const id = newId();
    this.studio.edit('Add a colourway', (draft) => {
      const shown = this.shown();
      const names = new Set(Object.values(draft.colourways).map(({ name }) => name));
      let number = names.size + 1;
      while (names.has(`Colourway ${number}`)) number++;
      draft.colourways[id] = {
        name: `Colourway ${number}`,
        order: Math.max(-1, ...Object.values(draft.colourways).map(({ order }) => order)) + 1,
        wears: shown ? { ...draft.colourways[shown]!.wears } : {},
      };
      draft.colourway = id;
    });
  }

  rename(id: string, name: string): void {
    if (name.trim() === '') return;
    this.studio.edit('Rename a colourway', (draft) => {
      if (draft.colourways[id]) draft.colourways[id].name = name.trim();
    });
  }

  remove(id: string): void {
    this.studio.edit('Delete a colourway', (draft) => {
      delete draft.colourways[id];
      if (draft.colourway === id) draft.colourway = null;
      for (const shot of Object.values(draft.shots)) if (shot.colourway === id) shot.colourway = null;
    });
  }

  /** Stands the product beside itself once in each variant, as copies in a line; what is copied already is dressed where it stands. */
  lineUp(): void {
    const document = this.studio.document();
    const tops = inOrder(document.nodes).filter(({ id, parent }) => parent === null && holdsModel(document, id));
    const box = this.bounds.of(tops.flatMap(({ id }) => subtree(document, id)));
    const across = isEmpty(box) ? 100 : Number(((box.high[0] - box.low[0]) * ROOM).toPrecision(3));
    const count = Math.max(1, this.all().length);
    this.studio.edit('Line up colourways', (draft) => {
      for (const { id } of tops) {
        const node = draft.nodes[id]!;
        if (node.copies) node.copies.dressed = 'colourways';
        else node.copies = newCopies({ kind: 'line', count, spacing: [across, 0, 0], dressed: 'colourways' });
      }
    });
    this.studio.selectAll(tops.map(({ id }) => ({ kind: 'node', id })));
  }

  /** Dresses parts or finishes in a variant; null leaves them as they are. */
  put(colourway: string, ids: readonly string[], finish: string | null): void {
    this.studio.edit('Dress a colourway', (draft) => {
      const own = draft.colourways[colourway];
      if (!own) return;
      for (const id of ids) {
        if (finish === null) delete own.wears[id];
        else own.wears[id] = finish;
      }
    });
  }
}

/** Whether a node or something below it came from a file: set pieces stand once. */
const holdsModel = (document: ProjectDocument, id: string): boolean =>
  subtree(document, id).some((each) => {
    const { mesh } = document.nodes[each]!;
    return mesh !== null && !('piece' in mesh);
  });

/** Parts below nodes that can wear something. */
export const dressable = (document: ProjectDocument, nodes: readonly string[]): string[] =>
  nodes.flatMap((id) => subtree(document, id)).filter((id) => document.nodes[id]?.mesh);

function rowOf({ nodes, finishes }: ProjectDocument, id: string): ColourwayRow | null {
  if (nodes[id]) return { id, kind: 'node', name: nodes[id].name, resting: nodes[id].finish, wears: {} };
  return finishes[id] ? { id, kind: 'finish', name: finishes[id].name, resting: id, wears: {} } : null;
}
