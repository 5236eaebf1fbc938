import { inject, Injectable } from '@angular/core';
import {
  copyOf,
  isColorSlot,
  layersOf,
  madeMap,
  meshKey,
  newId,
  newPictureMap,
  type Finish,
  type FinishMap,
  type MapSlot,
  type Vector3,
} from '@zippy/core/document';
import { centreOf, type Bounds } from '@zippy/core/geometry';
import { pictureOfSource, type MadeSourceKind } from '@zippy/core/optics';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** Edits of the layers of maps that finishes wear. */
@Injectable({ providedIn: 'root' })
export class FinishMaps {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  isColored({ slot }: FinishMap): boolean {
    return isColorSlot(slot);
  }

  /** Lays a map that needs no picture over all others of its parameter. @returns its id */
  add(finish: string, slot: MapSlot, kind: MadeSourceKind): string {
    // What varies a colour shows its own; a number is varied about what it is.
    return this.lay(finish, slot, madeMap(slot, kind), 'Add a map');
  }

  /** Lays a picture or footage over all others of its parameter. @returns its id */
  wearPicture(finish: string, slot: MapSlot, picture: string): string {
    const map = newPictureMap(slot, this.studio.document().assets[picture]!);
    return this.lay(finish, slot, { ...map, ...this.fitted(finish) }, 'Put a picture on');
  }

  /** Parts that brought no coordinates take a picture from six sides, once over the largest of them. */
  private fitted(finish: string): Partial<FinishMap> {
    const dressed = this.studio.dressed();
    const [meshes, bare] = [this.bounds.meshes(), this.bounds.bare()];
    const keys = Object.values(this.studio.document().nodes).flatMap((node) =>
      node.mesh && dressed(node) === finish ? [meshKey(node.mesh)] : [],
    );
    const boxes = keys.flatMap((key) => meshes.get(key) ?? []);
    if (boxes.length === 0 || keys.some((key) => !bare.has(key))) return {};
    const sidesOf = ({ low, high }: Bounds) => high.map((v, k) => Math.max(0.001, v - low[k]!)) as Vector3;
    const largest = boxes.reduce((a, b) => (Math.max(...sidesOf(b)) > Math.max(...sidesOf(a)) ? b : a));
    const [x, y, z] = sidesOf(largest);
    const thinnest = Math.min(x, y, z);
    // As wide and high as its largest side shows it.
    const [across, up] = thinnest === z ? [x, y] : thinnest === y ? [x, z] : [z, y];
    return { projection: 'box', position: centreOf(largest), size: [across, up, Math.max(across, up)] };
  }

  /** Cuts the finish out by what a layer shows: it is there where that is bright, or opaque. @returns the id of the layer that does */
  cutOut(finish: string, id: string, by: 'brightness' | 'alpha'): string {
    const like = this.studio.document().finishes[finish]?.maps[id];
    if (!like) return '';
    const own = { ...copyOf(like), slot: 'geometryOpacity' as const, coding: 'linear' as const };
    return this.lay(
      finish,
      'geometryOpacity',
      { ...own, blend: 'multiply', strength: 1, selfMasked: false, channel: by, shades: null },
      `Cut out by ${by === 'alpha' ? 'opacity' : 'brightness'}`,
    );
  }

  private lay(finish: string, slot: MapSlot, map: FinishMap, title: string): string {
    const id = newId();
    this.studio.edit(title, (draft) => {
      const own = draft.finishes[finish];
      if (!own) return;
      const below = layersOf(own, slot);
      own.maps[id] = { ...map, order: (below.at(-1)?.[1].order ?? -1) + 1 };
      if (pictureOfSource(map.source) !== null && below.length === 0) unveil(own, slot);
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

/** A picture multiplies: what is nothing would stay nothing, and the picture shall come in its own colours and, where it shines, be lit. */
function unveil(finish: Finish, slot: MapSlot): void {
  if (slot === 'normal' || slot === 'height') return;
  // As bright as a screen in a lit room, its white as it is coded.
  if (slot === 'emissionColor' && finish.emissionPower === 0)
    Object.assign(finish, { emissionPower: 300, emissionUnit: 'nit', emissionKelvin: 6500 });
  if (isColorSlot(slot)) finish[slot as 'baseColor'] = [1, 1, 1];
  else if (finish[slot as 'coatWeight'] === 0) finish[slot as 'coatWeight'] = 1;
}
