import { inject, Injectable } from '@angular/core';
import {
  isColorSlot,
  layersOf,
  madeMap,
  newId,
  newMap,
  type Finish,
  type FinishMap,
  type MapSlot,
} from '@zippy/core/document';
import type { MapSourceKind } from '@zippy/core/optics';
import { Studio } from '../studio';

/** Edits of the layers of maps that finishes wear. */
@Injectable({ providedIn: 'root' })
export class FinishMaps {
  private readonly studio = inject(Studio);

  isColored({ slot }: FinishMap): boolean {
    return isColorSlot(slot);
  }

  /** Lays a map that needs no picture over all others of its parameter. @returns its id */
  add(finish: string, slot: MapSlot, kind: Exclude<MapSourceKind, 'picture'>): string {
    // What varies a colour shows its own; a number is varied about what it is.
    return this.lay(finish, slot, madeMap(slot, kind), 'Add a map');
  }

  /** Lays a picture over all others of its parameter. @returns its id */
  wearPicture(finish: string, slot: MapSlot, picture: string): string {
    return this.lay(finish, slot, newMap(slot, picture), 'Put a picture on');
  }

  private lay(finish: string, slot: MapSlot, map: FinishMap, title: string): string {
    const id = newId();
    this.studio.edit(title, (draft) => {
      const own = draft.finishes[finish];
      if (!own) return;
      const below = layersOf(own, slot);
      own.maps[id] = { ...map, order: (below.at(-1)?.[1].order ?? -1) + 1 };
      if (map.source.kind === 'picture' && below.length === 0) unveil(own, slot);
    });
    return id;
  }

  change(finish: string, id: string, what: string, over: Partial<FinishMap>, gesture = ''): void {
    this.studio.edit(
      `Change ${what}`,
      (draft) => {
        const map = draft.finishes[finish]?.maps[id];
        if (map) Object.assign(map, over);
      },
      gesture || undefined,
    );
  }

  /** Brings a layer over the next one, or under it. @param by 1 or -1 */
  raise(finish: string, id: string, by: number): void {
    this.studio.edit(by > 0 ? 'Bring a map up' : 'Bring a map down', (draft) => {
      const own = draft.finishes[finish];
      const map = own?.maps[id];
      if (!own || !map) return;
      const ids = layersOf(own, map.slot).map(([each]) => each);
      const at = ids.indexOf(id);
      const other = ids[at + by];
      if (other === undefined) return;
      [ids[at], ids[at + by]] = [other, id];
      ids.forEach((each, order) => (own.maps[each]!.order = order));
    });
  }

  takeOff(finish: string, id: string, what: string): void {
    this.studio.edit(`Take ${what} off`, (draft) => {
      delete draft.finishes[finish]?.maps[id];
      const gone = `finishes/${finish}/maps/${id}/`;
      for (const { tracks, changes } of Object.values(draft.shots)) {
        for (const record of [tracks, changes])
          for (const path of Object.keys(record)) if (path.startsWith(gone)) delete record[path];
      }
    });
  }
}

/** A picture multiplies: what is nothing would stay nothing, and the picture shall come in its own colours. */
function unveil(finish: Finish, slot: MapSlot): void {
  if (slot === 'normal' || slot === 'height') return;
  if (isColorSlot(slot)) finish[slot as 'baseColor'] = [1, 1, 1];
  else if (finish[slot as 'coatWeight'] === 0) finish[slot as 'coatWeight'] = 1;
}
