import { freeStation, LAMP_KINDS, stationAt, STATIONS, type StationName } from '@zippy/core/optics';
import { forgetTargets, placedAimed, removeNodes } from '@zippy/core/scene';
import {
  copyOf,
  inOrder,
  lastOrder,
  newCamera,
  newFinish,
  newId,
  newLight,
  newShot,
  nextName,
  shotsInOrder,
  type Finish,
  type Light,
  type Vector3,
} from '@zippy/core/document';
import { FINISH_SHELF } from '@zippy/core/shelf';
import { inject, Injectable } from '@angular/core';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';
import { Colourways, dressable } from './colourways';
import { removeFromReel } from './reel-edits';
import { finishIn, fromShelf } from './finish-shelf';
import { Moves } from './moves';
import { copyKeys, copyMoves, deleteKeys } from './strip-edits';

/** Size in millimetres of the panel that goes with a product for which lamps have their plain power. */
const LAMP_SIZE = 192;

const COLLECTIONS = { light: 'lights', camera: 'cameras', finish: 'finishes' } as const;

/** Edits of whole things: parts, finishes, lights, cameras, shots, moves. */
@Injectable({ providedIn: 'root' })
export class Things {
  private readonly studio = inject(Studio);
  private readonly colourways = inject(Colourways);
  private readonly bounds = inject(SceneBounds);
  private readonly moves = inject(Moves);

  toggleShown(id: string): void {
    const shown = this.studio.present().nodes[id]?.visible ?? true;
    this.studio.setProperty(shown ? 'Hide' : 'Show', `nodes/${id}/visible`, !shown);
  }

  showAll(): void {
    this.studio.isolate(null);
    this.studio.edit('Show all', (draft) => {
      for (const node of Object.values(draft.nodes)) node.visible = true;
    });
  }

  /** Shows one thing alone without touching the document; again shows all. */
  isolate(id: string | null): void {
    this.studio.isolate(this.studio.isolated() === id ? null : id);
  }

  /** Lights the next part (or the one before) while the rest is dimmed. */
  stepParts(by: number): void {
    const parts = inOrder(this.studio.document().nodes).filter((node) => node.mesh);
    if (parts.length === 0) return;
    const from = this.studio.lit() ?? this.studio.selectedNodes().at(-1);
    const at = parts.findIndex((part) => part.id === from);
    const next = parts[(Math.max(at, by > 0 ? -1 : 0) + by + parts.length) % parts.length]!;
    this.studio.select('node', next.id);
    this.studio.light(next.id);
  }

  rename(kind: 'nodes' | 'finishes' | 'lights' | 'cameras' | 'shots', id: string, name: string): void {
    const clean = name.trim().slice(0, 200);
    if (clean) this.studio.edit('Rename', (draft) => void (draft[kind][id]!.name = clean));
  }

  /** Puts a finish on parts: one of the document by id, or a new one from the shelf. */
  wear(nodes: string[], finish: string | Partial<Finish>): void {
    this.studio.edit('Finish', (draft) => {
      const id = typeof finish === 'string' ? finish : finishIn(draft, finish);
      const shown = this.colourways.shown();
      for (const each of dressable(draft, nodes)) {
        // While a variant is shown, what is put on is part of that.
        if (shown) draft.colourways[shown]!.wears[each] = id;
        else draft.nodes[each]!.finish = id;
      }
    });
  }

  /** Gives parts a finish of their own that begins as what they wear; those that wear the same go on sharing one. */
  wearOwn(nodes: string[]): void {
    const dressed = this.studio.dressed();
    this.studio.edit('Finish of its own', (draft) => {
      const shown = this.colourways.shown();
      const made = new Map<string, string>();
      for (const each of dressable(draft, nodes)) {
        const worn = dressed(draft.nodes[each]!);
        const finish = worn === null ? undefined : draft.finishes[worn];
        if (!finish) continue;
        let id = made.get(finish.id);
        if (!id) {
          id = newId();
          made.set(finish.id, id);
          const names = Object.values(draft.finishes).map(({ name }) => name);
          draft.finishes[id] = { ...copyOf(finish), id, name: nextName(names, finish.name) };
        }
        if (shown) draft.colourways[shown]!.wears[each] = id;
        else draft.nodes[each]!.finish = id;
      }
    });
  }

  /** Adds a light at a station about the product, or at the next that is free, aimed at it and in proportion to its size. */
  addLightBeside(kind: Light['kind'], station?: StationName): void {
    const { center, size } = this.bounds.product();
    const present = this.studio.present();
    const eye = this.studio.frameState().camera?.position ?? [center[0], center[1], center[2] + size];
    const lit = { center, size, eye, floor: present.set.floor.kind === 'none' ? null : 0 };
    const lamps = Object.values(placedAimed(present).lights).map(({ position }) => position);
    const name = station ?? freeStation(lit, lamps);
    this.addLight(
      kind,
      name,
      stationAt(name, lit) as Vector3,
      center,
      Math.max(0.1, Number((size * 0.8).toPrecision(2))),
    );
  }

  private addLight(kind: Light['kind'], station: StationName, at: Vector3, target: Vector3, size: number): void {
    const document = this.studio.document();
    const names = Object.values(document.lights).map(({ name }) => name);
    const light = newLight(kind, {
      name: nextName(names, `${STATIONS[station].title} ${LAMP_KINDS[kind].title.toLowerCase()}`),
      order: lastOrder(document.lights),
      position: at,
      target,
      ...this.lampSize(kind, size),
    });
    // As bright on a small product as on a large one: farther lamps are stronger by the square.
    if (light.unit === 'lumen')
      light.power = Math.min(
        1e9,
        Number((light.power * STATIONS[station].share * (size / LAMP_SIZE) ** 2).toPrecision(2)),
      );
    this.studio.edit('Add light', (draft) => void (draft.lights[light.id] = light));
    this.studio.select('light', light.id);
  }

  private lampSize(kind: Light['kind'], size: number): Partial<Light> {
    const sizes = { width: size, height: size, ...LAMP_KINDS[kind].proportions(size) };
    return Object.fromEntries(Object.entries(sizes).map(([name, length]) => [name, Math.max(0.1, length)]));
  }

  keepView(position: Vector3, target: Vector3): void {
    const document = this.studio.document();
    const shot = this.studio.shot();
    const like = shot?.camera ? document.cameras[shot.camera] : undefined;
    const focusDistance = Math.max(1, Math.hypot(...position.map((v, k) => v - target[k]!)));
    const camera = newCamera({
      ...like,
      id: newId(),
      name: `Camera ${Object.keys(document.cameras).length + 1}`,
      order: lastOrder(document.cameras),
      parent: null,
      position,
      target,
      focusDistance,
      focusOn: null,
      aimOn: null,
      locked: false,
    });
    this.studio.edit('Keep view as camera', (draft) => {
      draft.cameras[camera.id] = camera;
      if (shot) draft.shots[shot.id]!.camera = camera.id;
    });
    this.studio.select('camera', camera.id);
    this.studio.lookThroughCamera(true);
  }

  addShot(): void {
    const document = this.studio.document();
    const present = this.studio.shot();
    const shot = newShot({
      name: `Shot ${shotsInOrder(document).length + 1}`,
      order: lastOrder(document.shots),
      camera: present?.camera ?? inOrder(document.cameras)[0]?.id ?? null,
    });
    this.studio.edit('Add shot', (draft) => void (draft.shots[shot.id] = shot));
    this.studio.openShot(shot.id);
    this.studio.select('shot', shot.id);
  }

  /** Sets one property of all lights that are selected. */
  setAll(label: string, name: 'on' | 'solo', value: boolean): void {
    const lights = this.studio.selection().flatMap(({ kind, id }) => (kind === 'light' ? [id] : []));
    if (name === 'solo') {
      this.studio.edit(label, (draft) => {
        for (const id of lights) draft.lights[id]!.solo = value;
      });
    } else this.studio.setProperties(label, Object.fromEntries(lights.map((id) => [`lights/${id}/on`, value])));
  }

  /** Has the present shot taken by a camera, and looks through it. */
  useCamera(id: string): void {
    const shot = this.studio.shotId();
    if (!shot) return;
    this.studio.edit('Camera of the shot', (draft) => void (draft.shots[shot]!.camera = id));
    this.studio.lookThroughCamera(true);
  }

  /** Gives all that is selected the values of new ones; names and places stay, except of parts, whose place is what is reset. */
  resetSelected(): void {
    const [selection, shot] = [this.studio.selection(), this.studio.shotId()];
    this.studio.edit('Reset', (draft) => {
      for (const { kind, id } of selection) {
        if (kind === 'node' && draft.nodes[id])
          Object.assign(draft.nodes[id], { position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] });
        const light = draft.lights[id];
        if (kind === 'light' && light) {
          const { name, order, parent, position, target } = light;
          draft.lights[id] = newLight(light.kind, { id, name, order, parent, position, target });
        }
        const camera = draft.cameras[id];
        if (kind === 'camera' && camera) {
          const { name, order, parent, position, target } = camera;
          draft.cameras[id] = newCamera({ id, name, order, parent, position, target });
        }
        const finish = draft.finishes[id];
        if (kind === 'finish' && finish) {
          const kept = FINISH_SHELF.flatMap(({ finishes }) => finishes).find(({ name }) => name === finish.name);
          draft.finishes[id] = { ...(kept ? fromShelf(kept) : newFinish()), id, name: finish.name };
        }
        if (kind === 'shot' && draft.shots[id]) draft.shots[id].changes = {};
        const moves = shot ? draft.shots[shot]?.moves : undefined;
        const move = moves?.[id];
        if (kind === 'move' && moves && move)
          moves[id] = { ...this.moves.likeNew(move), id, name: move.name, start: move.start, length: move.length };
      }
    });
  }

  /** Deletes keys that are marked, or else everything selected. */
  deleteSelected(): void {
    const [keys, selection, shot] = [this.studio.keys(), this.studio.selection(), this.studio.shotId()];
    this.studio.edit('Delete', (draft) => {
      if (keys.length > 0) {
        const onReel = keys.filter(({ path }) => path.startsWith('reel/'));
        deleteKeys(draft.reel, onReel);
        if (shot) deleteKeys(draft.shots[shot]!, keys.filter((key) => !onReel.includes(key))); // prettier-ignore
        return;
      }
      for (const { kind, id } of selection) {
        if (kind === 'node') removeNodes(draft, [id]);
        if (kind === 'light' || kind === 'camera' || kind === 'finish') forgetTargets(draft, COLLECTIONS[kind], [id]);
        if (kind === 'light') delete draft.lights[id];
        if (kind === 'camera') delete draft.cameras[id];
        if (kind === 'clip' || kind === 'title' || kind === 'sound') removeFromReel(draft, kind, id);
        if (kind === 'move') for (const each of Object.values(draft.shots)) delete each.moves[id];
        if (kind === 'shot' && Object.keys(draft.shots).length > 1) delete draft.shots[id];
        if (kind === 'finish') {
          delete draft.finishes[id];
          for (const node of Object.values(draft.nodes)) {
            if (node.finish === id) node.finish = null;
            if (node.copies) node.copies.wears = node.copies.wears.filter((finish) => finish !== id);
            for (const label of Object.values(node.labels)) if (label.finish === id) label.finish = null;
          }
          for (const { wears } of Object.values(draft.colourways)) {
            delete wears[id];
            for (const [part, finish] of Object.entries(wears)) if (finish === id) delete wears[part];
          }
        }
      }
    });
    this.studio.pickKeys([]);
  }

  /** Copies picked keys, or else picked moves, to the playhead, keeping their distances; the copies are picked then. */
  copyToPlayhead(): void {
    const [keys, shot, frame, selection] = [
      this.studio.keys(),
      this.studio.shotId(),
      this.studio.frame(),
      this.studio.selection(),
    ];
    if (!shot) return;
    if (keys.length > 0) {
      let copies = keys;
      this.studio.edit('Copy keys', (draft) => void (copies = copyKeys(draft.shots[shot]!, keys, frame)));
      this.studio.pickKeys(copies);
      return;
    }
    const moves = selection.flatMap(({ kind, id }) => (kind === 'move' ? [id] : []));
    if (moves.length === 0) return;
    let copies: string[] = [];
    this.studio.edit('Copy moves', (draft) => void (copies = copyMoves(draft.shots[shot]!, moves, frame)));
    this.studio.selectAll(copies.map((id) => ({ kind: 'move', id })));
  }
}
