import { computed, inject, Injectable, signal } from '@angular/core';
import { subtree } from '@zippy/core/document';
import type { Quaternion } from '@zippy/core/geometry';
import {
  aimed,
  aimPlace,
  carried,
  gripAxes,
  gripPlace,
  sized,
  topmost,
  turned,
  type Grip,
  type GripAxes,
  type SceneState,
} from '@zippy/core/scene';
import type { Vector3 } from '@zippy/core/document';
import { PickingTask } from '../../store/picking';
import { Studio } from '../../store/studio';
import type { SelectionKind } from '../../store/view/view.state';
import { newGesture } from '../../ui/gesture';
import { LENGTH_UNIT } from '../../ui/project-units';
import { reckonDrag, type GripDrag, type GripMode } from './grip-drag';

const COLLECTIONS: Partial<Record<SelectionKind, Grip['collection']>> = {
  node: 'nodes',
  light: 'lights',
  camera: 'cameras',
};
const MODES: GripMode[] = ['move', 'turn', 'size'];
const AXES: GripAxes[] = ['world', 'own', 'parent'];
const DONE = { move: 'Move', turn: 'Turn', size: 'Size' };
/** What numbers are typed with. */
const TYPED = /^[\d.,+\-*/()a-z%° ]$/i;

/** What the handles in the picture hold, and what dragging them does. */
@Injectable({ providedIn: 'root' })
export class GripHold {
  private readonly studio = inject(Studio);
  private readonly picking = inject(PickingTask);
  private readonly unit = inject(LENGTH_UNIT);
  private readonly wanted = signal<GripMode>('move');
  readonly whose = signal<GripAxes>('world');
  /** What the drag comes to, in words; null while nothing is dragged. */
  readonly said = signal<string | null>(null);
  private held: {
    state: SceneState;
    grips: Grip[];
    gesture: string;
    edited: boolean;
    /** Of a travel that is held: the end that goes along, and where it was. */
    travel: { id: string; end: 'from' | 'to'; was: Vector3 } | null;
  } | null = null;
  private last: GripDrag | null = null;
  private typed = '';

  /** A travel that is selected: what is dragged is where it begins, up to its first frame, and where it ends after that. */
  private readonly travel = computed(() => {
    const primary = this.studio.primary();
    const move = primary?.kind === 'move' ? this.studio.shot()?.moves[primary.id] : undefined;
    if (move?.kind !== 'travel') return null;
    const [collection, id] = move.target.split('/') as [Grip['collection'], string];
    const end = this.studio.frame() <= move.start ? ('from' as const) : ('to' as const);
    return this.studio.present()[collection][id] ? { move, end, grip: { collection, id } } : null;
  });

  /** What the handles hold: the last thing selected, unless the picture looks through it or it is locked. */
  readonly grip = computed((): Grip | null => {
    const primary = this.studio.primary();
    const throughCamera = this.studio.throughCamera();
    // They would catch the click that is waited for.
    if (this.picking.task()) return null;
    // Looking through the camera, handles on parts would be in the way of picking them, except where motion is made.
    if (primary?.kind === 'node')
      return throughCamera && this.studio.desk() !== 'motion' ? null : { collection: 'nodes', id: primary.id };
    const travel = this.travel();
    if (travel) return throughCamera && travel.grip.collection === 'cameras' ? null : travel.grip;
    if (primary?.kind === 'light') return { collection: 'lights', id: primary.id };
    if (primary?.kind !== 'camera' || throughCamera) return null;
    return this.studio.document().cameras[primary.id]?.locked ? null : { collection: 'cameras', id: primary.id };
  });
  /** What has no size is moved. */
  readonly mode = computed((): GripMode => {
    const [grip, wanted] = [this.grip(), this.wanted()];
    if (this.travel()) return 'move';
    const sizeless = grip && Object.keys(sized(this.studio.present(), grip, [1, 1, 1])).length === 0;
    return wanted === 'size' && sizeless ? 'move' : wanted;
  });
  readonly place = computed((): Vector3 | null => {
    const grip = this.grip();
    return grip && gripPlace(this.studio.present(), grip);
  });
  /** Things grow along their own axes. */
  readonly axes = computed((): Quaternion => {
    const grip = this.grip();
    return grip ? gripAxes(this.studio.present(), grip, this.mode() === 'size' ? 'own' : this.whose()) : [0, 0, 0, 1];
  });

  /** Where the lamp or camera that is held is aimed. */
  readonly aim = computed((): Vector3 | null => {
    const grip = this.grip();
    return grip && aimPlace(this.studio.present(), grip);
  });

  /** Aims what is held elsewhere. @param by how far from where it was aimed when its aim was taken */
  aimBy(by: Vector3 | 'taken' | 'dropped'): void {
    if (by === 'taken') this.take();
    else if (by === 'dropped') this.drop();
    else if (this.held) {
      const { state, gesture } = this.held;
      const grip = this.grip();
      if (!grip) return;
      this.held.edited = true;
      this.studio.setProperties('Aim', aimed(state, grip, by), gesture);
    }
  }

  switchMode(to = MODES[(MODES.indexOf(this.wanted()) + 1) % MODES.length]!): void {
    this.wanted.set(to);
  }

  switchAxes(to = AXES[(AXES.indexOf(this.whose()) + 1) % AXES.length]!): void {
    this.whose.set(to);
  }

  /** Everything is reckoned from where it stood when it was taken hold of, so that no error adds up. */
  drag(drag: GripDrag | 'taken' | 'dropped'): void {
    if (drag === 'dropped') return this.drop();
    if (drag === 'taken') {
      this.take();
      return;
    }
    this.last = drag;
    this.apply();
  }

  /** Keys that mean the drag while there is one: numbers are typed into it, Escape takes it back. @returns whether it was one */
  press({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
    if (!this.held || ctrlKey || metaKey || altKey) return false;
    if (key === 'Escape') this.takeBack();
    else if (key === 'Enter') this.drop();
    else if (key === 'Backspace') this.type(this.typed.slice(0, -1));
    else if (TYPED.test(key)) this.type(this.typed + key);
    else return false;
    return true;
  }

  private type(typed: string): void {
    this.typed = typed;
    this.apply();
  }

  private take(): void {
    const grips = this.allGrips();
    const travel = this.travel();
    this.held =
      grips.length > 0
        ? {
            state: this.restingFor(grips),
            grips,
            gesture: newGesture(),
            edited: false,
            travel: travel && { id: travel.move.id, end: travel.end, was: travel.move[travel.end] },
          }
        : null;
    this.typed = '';
    this.last = null;
  }

  private drop(): void {
    this.held = null;
    this.said.set(null);
  }

  private takeBack(): void {
    if (this.held?.edited) this.studio.undo();
    this.drop();
  }

  private apply(): void {
    const { held, last, typed } = this;
    if (!held || !last) return;
    const mode = this.mode();
    const { by, turn, size, said } = reckonDrag(last, mode, typed, this.unit());
    this.said.set(typed ? `${said} · typed ${typed}` : said);
    const values = held.grips.map((grip) => {
      if (mode === 'turn') return turned(held.state, grip, turn);
      return mode === 'size' ? sized(held.state, grip, size) : carried(held.state, grip, by);
    });
    held.edited = true;
    if (held.travel)
      return this.travelTo(
        held.travel,
        held.state,
        held.grips[0]!,
        Object.values(values[0]!)[0] as Vector3,
        held.gesture,
      );
    this.studio.setProperties(DONE[mode], Object.assign({}, ...values), held.gesture);
  }

  /** Shifts one end of a travel as far as what it carries was dragged. @param place where that came to rest by itself */
  private travelTo(
    { id, end, was }: { id: string; end: 'from' | 'to'; was: Vector3 },
    state: SceneState,
    { collection, id: thing }: Grip,
    place: Vector3 | undefined,
    gesture: string,
  ): void {
    const [shot, rests] = [this.studio.shotId(), state[collection][thing]?.position];
    if (!shot || !rests || !place) return;
    const to = was.map((v, k) => v + place[k]! - rests[k]!) as Vector3;
    this.studio.edit(
      end === 'from' ? 'Where it begins' : 'Where it ends',
      (draft) => {
        const move = draft.shots[shot]!.moves[id];
        if (move?.kind === 'travel') move[end] = to;
      },
      gesture,
    );
  }

  /** All that is selected and can be held; what hangs on something else of it goes with that. */
  private allGrips(): Grip[] {
    const document = this.studio.document();
    const first = this.grip();
    if (!first) return [];
    if (this.travel()) return [first];
    const nodes = topmost(document, this.studio.selectedNodes());
    const carriedAlong = new Set(nodes.flatMap((id) => subtree(document, id)));
    const others = this.studio.selection().flatMap(({ kind, id }): Grip[] => {
      const collection = COLLECTIONS[kind];
      if (!collection || collection === 'nodes') return [];
      const thing = document[collection][id];
      const goesAlong = !thing || (thing.parent !== null && carriedAlong.has(thing.parent));
      const stays = collection === 'cameras' && (document.cameras[id]?.locked || this.studio.throughCamera());
      return goesAlong || stays ? [] : [{ collection, id }];
    });
    return [...nodes.map((id): Grip => ({ collection: 'nodes', id })), ...others];
  }

  /** The present state, but with what is held where it rests: what a move adds to its place must not become part of it. */
  private restingFor(grips: Grip[]): SceneState {
    const placed = this.studio.placed();
    const state = { ...this.studio.present() };
    for (const { collection, id } of grips) {
      const own = placed[collection][id];
      if (own) Object.assign(state, { [collection]: { ...state[collection], [id]: own } });
    }
    return state;
  }
}
