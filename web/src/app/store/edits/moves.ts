import { computed, inject, Injectable, signal } from '@angular/core';
import {
  nearest,
  propertyAt,
  propertyKind,
  readProperty,
  subtree,
  type Move,
  type MoveKind,
  type ProjectDocument,
  type Shot,
  type Vector3,
} from '@zippy/core/document';
import { add, distance, invertTransform, length, subtract, transformPoint } from '@zippy/core/geometry';
import { behaviourOf, MOVE_KINDS, newMove, putUnfolded, unfoldMoves, type Occasion } from '@zippy/core/motion';
import { axisInParent, topmost, worldTransforms } from '@zippy/core/scene';
import { MOVE_STARTS, type MoveStart } from '../../kinds/moves';
import { many } from '../../ui/many';
import { Notices } from '../notices';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';
import type { Selected } from '../view/view.state';
import { MoveOrder, type Order } from './move-order';
import { Routes } from './routes';
import { WaysApart } from './ways-apart';

type Carrier = (typeof MOVE_KINDS)[MoveKind]['on'][number];

/** What of a thing a move on it sets. */
const PROPERTIES: Record<
  Exclude<Carrier, 'nodes' | 'cameras' | 'lights'>,
  Partial<Record<Selected['kind'], string>>
> = {
  shine: { light: 'power', finish: 'emissionPower', node: 'glow' },
  tint: { light: 'tint', finish: 'emissionColor' },
  switch: { light: 'on', node: 'visible' },
};
const COLLECTIONS = { node: 'nodes', light: 'lights', camera: 'cameras', finish: 'finishes' } as const;

/** Where the time of new moves begins. */
export type NewMoveTime = 'shot' | 'playhead';
const KEPT_AS = 'zippy.new-moves';
/** Frames that a move from the playhead has at least; with fewer left it fills the shot. */
const LEAST = 2;
/** Moves: putting them on things, and what is done with those that are there. */
@Injectable({ providedIn: 'root' })
export class Moves {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  private readonly notices = inject(Notices);
  private readonly waysApart = inject(WaysApart);
  private readonly order = inject(MoveOrder);
  private readonly routes = inject(Routes);

  /** The one rule for when new moves happen, remembered in this browser. */
  readonly time = signal<NewMoveTime>(localStorage.getItem(KEPT_AS) === 'playhead' ? 'playhead' : 'shot');

  setTime(time: NewMoveTime): void {
    this.time.set(time);
    localStorage.setItem(KEPT_AS, time);
  }

  /** What a move of a kind would act on of something selected; null where it cannot. */
  private targetOf(kind: MoveKind, { kind: of, id }: Selected): string | null {
    const on: readonly Carrier[] = MOVE_KINDS[kind].on;
    const collection = COLLECTIONS[of as keyof typeof COLLECTIONS];
    if (!collection) return null;
    if (on.some((each) => each === collection)) {
      return kind === 'explode' && this.waysApart.below(id).length < 2 ? null : `${collection}/${id}`;
    }
    for (const each of on) {
      const property = each in PROPERTIES ? PROPERTIES[each as keyof typeof PROPERTIES][of] : undefined;
      if (!property) continue;
      if (property === 'glow' && !this.studio.document().nodes[id]?.mesh) continue;
      return `${collection}/${id}/${property}`;
    }
    return null;
  }

  /** What a move that is there would act on of another thing: of one of the same kind the same property. */
  private actsOn(move: Move, thing: Selected): string | null {
    const [collection, , ...property] = move.target.split('/');
    if (property.length === 0 || COLLECTIONS[thing.kind as keyof typeof COLLECTIONS] !== collection)
      return this.targetOf(move.kind, thing);
    const path = [collection, thing.id, ...property].join('/');
    return readProperty(this.studio.document(), path) === undefined ? null : path;
  }

  canActOn = (move: Move, thing: Selected): boolean => this.actsOn(move, thing) !== null;

  /**
   * What a move of a kind would act on: all that is selected, or that selected moves are on, parts without those below others. While nothing is selected, moves of cameras
   * act on the camera of the shot, and turns on the whole product.
   */
  readonly targets = (kind: MoveKind): string[] => {
    const document = this.studio.document();
    const selection = this.meant();
    const tops = new Set(
      topmost(
        document,
        selection.flatMap(({ kind: of, id }) => (of === 'node' ? [id] : [])),
      ),
    );
    const found = selection.flatMap((each) =>
      each.kind === 'node' && MOVE_KINDS[kind].drives === 'place' && !tops.has(each.id)
        ? []
        : (this.targetOf(kind, each) ?? []),
    );
    if (found.length > 0 || selection.length > 0) return found;
    const { family } = MOVE_STARTS.find((each) => each.kind === kind)!;
    const camera = this.studio.shot()?.camera;
    if (family === 'camera') return camera ? [`cameras/${camera}`] : [];
    return family === 'turn' || kind === 'explode'
      ? this.product().flatMap((id) => this.targetOf(kind, { kind: 'node', id }) ?? [])
      : [];
  };

  /** What is selected, and in the place of moves what they are on. */
  readonly meant = computed((): Selected[] => {
    const moves = this.studio.shot()?.moves ?? {};
    const things = this.studio.selection().map((each): Selected => {
      const [collection, id = ''] = (each.kind === 'move' ? moves[each.id]?.target : undefined)?.split('/') ?? [];
      const kind = (Object.keys(COLLECTIONS) as (keyof typeof COLLECTIONS)[]).find(
        (of) => COLLECTIONS[of] === collection,
      );
      return kind ? { kind, id } : each;
    });
    return things.filter(
      ({ kind, id }, k) => things.findIndex((other) => other.id === id && other.kind === kind) === k,
    );
  });

  /** Nodes at the top of the tree that models were brought in as. */
  private product(): string[] {
    const { nodes } = this.studio.document();
    const brought = (id: string) =>
      subtree(this.studio.document(), id).some((each) => nodes[each]!.mesh && !('piece' in nodes[each]!.mesh!));
    return Object.values(nodes).flatMap(({ id, parent }) => (parent === null && brought(id) ? [id] : []));
  }

  /** Puts a move on each of the things that it can act on, as one step. */
  begin(kind: MoveKind, start: MoveStart): void {
    const stations = kind === 'route' ? this.routes.chosenStations() : [];
    const camera = this.studio.shot()?.camera;
    // Several cameras that are selected are the viewpoints of one route of the shot's own.
    if (stations.length > 0 && camera)
      this.put(kind, [`cameras/${camera}`], { ...start, numbers: () => ({ stations }) });
    else this.put(kind, this.targets(kind), start);
  }

  /** Puts a move of a kind on each target, as one step. */
  put(kind: MoveKind, targets: readonly string[], start?: MoveStart): void {
    const shot = this.studio.shot();
    if (!shot || targets.length === 0) return;
    const [from, frames] = this.timeIn(shot);
    const moves = targets.map((target) => this.make(kind, target, from, frames, targets, start));
    this.studio.edit(`Add ${moves[0]!.name.toLowerCase()}`, (draft) => {
      for (const move of moves) draft.shots[shot.id]!.moves[move.id] = move;
    });
    this.studio.selectAll(moves.map(({ id }) => ({ kind: 'move', id })));
  }

  private timeIn(shot: Shot): [number, number] {
    const playhead = Math.round(this.studio.restFrame());
    const left = shot.length - playhead + 1;
    return this.time() === 'playhead' && left >= LEAST ? [playhead, left] : [1, shot.length];
  }

  private make(
    kind: MoveKind,
    target: string,
    from: number,
    frames: number,
    all: readonly string[],
    start?: MoveStart,
  ): Move {
    const about = this.occasion(kind, target, all);
    const move = newMove(kind, target, from, frames, about);
    const made = start ? ({ ...move, name: start.title, ...start.numbers?.(move, about) } as Move) : move;
    // Nothing is not in the range of everything: no lens has a focal length of 0.
    const property = propertyAt(target);
    const behaviour = behaviourOf(made);
    if (property && behaviour.drives === 'value')
      behaviour.mapValues?.(made, (values) => values.map((value) => nearest(property, value)));
    return made;
  }

  /** A new move of the kind of another one, on the same thing. */
  likeNew = ({ kind, target, start, length: frames }: Move): Move => this.make(kind, target, start, frames, [target]);

  private occasion(kind: MoveKind, target: string, all: readonly string[]): Occasion {
    const document = this.studio.document();
    const [collection, id = ''] = target.split('/');
    const node = collection === 'nodes' ? document.nodes[id] : undefined;
    const camera = collection === 'cameras' ? this.studio.placedAtRest().cameras[id] : undefined;
    const light = collection === 'lights' ? this.studio.placedAtRest().lights[id] : undefined;
    return {
      axis: node ? axisInParent(node) : [0, 1, 0],
      size: this.sizeFor(target),
      center: node ? this.centerFor(id, all) : null,
      present: readProperty(this.studio.presentAtRest(), target),
      camera:
        camera ??
        (light ? { ...light, roll: 0, focalLength: 50, focusDistance: distance(light.position, light.target) } : null),
      apart: kind === 'explode' && node ? this.waysApart.of(id, 'middle') : [],
    };
  }

  /** As far as a move has to reach to be seen: that of the part, or of the product for what carries no part. */
  private sizeFor(target: string): number {
    const [collection, id = ''] = target.split('/');
    const all = this.bounds.product().size;
    if (collection !== 'nodes') return all;
    return this.bounds.around(subtree(this.studio.document(), id)).size || all;
  }

  /**
   * What nodes turn about by default, in the space of what the first hangs under: one that has a turning point or an axis of its own
   * about that, otherwise the middle of all that turns with it.
   */
  private centerFor(id: string, all: readonly string[]): Vector3 | null {
    const document = this.studio.document();
    const node = document.nodes[id]!;
    const nodes = all.flatMap((path) => (path.startsWith('nodes/') ? [path.split('/')[1]!] : []));
    const chosen = node.pivot.some((v) => v !== 0);
    if (nodes.length === 1 && chosen) return null;
    const parts = nodes.flatMap((each) => subtree(document, each));
    if (!this.bounds.product() || parts.length === 0) return null;
    const { center, size } = this.bounds.around(parts);
    const local = this.inParent(id, center);
    const own = add(node.position, node.pivot);
    // Upright through its own turning point already.
    const off = length(subtract(local, own).map((v, k) => v * (1 - Math.abs(node.axis[k]!))) as Vector3);
    return nodes.length === 1 && off < 1e-3 * size ? null : local;
  }

  private inParent(id: string, point: Vector3): Vector3 {
    const { parent } = this.studio.document().nodes[id]!;
    const inverse =
      parent === null ? null : invertTransform(worldTransforms(this.studio.presentAtRest(), [parent]).get(parent)!);
    return inverse ? transformPoint(inverse, point) : point;
  }

  /** Kinds of moves that can set a property. */
  kindsFor(path: string): { kind: MoveKind; start: MoveStart }[] {
    const present = readProperty(this.studio.presentAtRest(), path);
    if (present === undefined || !propertyAt(path)?.moves) return [];
    const value = propertyKind(path, present);
    return MOVE_STARTS.filter(({ kind }) => {
      const about = MOVE_KINDS[kind];
      return about.drives === 'value' && about.takes.some((each) => each === value);
    });
  }

  private inShot(label: string, change: (shot: Shot, draft: ProjectDocument) => void, gesture?: string): void {
    const id = this.studio.shotId();
    if (id) this.studio.edit(label, (draft) => change(draft.shots[id]!, draft), gesture);
  }

  /** Changes one move of the present shot. */
  change(label: string, id: string, recipe: (move: Move) => void, gesture?: string): void {
    this.inShot(label, ({ moves }) => void (moves[id] && recipe(moves[id])), gesture);
  }

  /** Mutes moves, or all again where the first is muted. */
  mute(ids: readonly string[]): void {
    const muted = !this.studio.shot()?.moves[ids[0] ?? '']?.muted;
    this.inShot(muted ? 'Mute moves' : 'Let moves act', ({ moves }) => {
      for (const id of ids) if (moves[id]) moves[id].muted = muted;
    });
  }

  /** Writes moves as keys that do the same. */
  unfold(ids: readonly string[]): void {
    const [document, shot] = [this.studio.document(), this.studio.shot()];
    if (!shot) return;
    const unfolded = unfoldMoves(document, shot, ids);
    if (unfolded.moves.length === 0)
      return this.notices.say(
        'Nothing became keys: what is muted, or reaches copies one after the other, stays a move.',
      );
    const most = Object.values(unfolded.tracks).reduce((sum, keys) => sum + keys.length, 0);
    this.studio.edit('Unfold into keys', (draft) => putUnfolded(draft, shot.id, unfolded));
    this.studio.pickKeys([]);
    this.studio.selectAll([]);
    const more = unfolded.moves.length - ids.length;
    this.notices.say(
      `${many(unfolded.moves.length, 'move')} became ${many(most, 'key')}${more > 0 ? `: ${more} of them acted on the same thing` : ''}.`,
    );
  }

  /** Has moves begin one after the other, each with its own length. */
  stagger(ids: readonly string[], frames: number, order: Order, gesture?: string): void {
    const shot = this.studio.shot();
    if (!shot || ids.length < 2) return;
    const moves = ids.flatMap((id) => shot.moves[id] ?? []);
    const first = Math.min(...moves.map(({ start }) => start));
    const ranks = this.order.ranked(moves, order);
    this.inShot(
      'Stagger moves',
      (draft) => {
        ranks.forEach(({ id }, k) => {
          if (draft.moves[id]) draft.moves[id].start = first + Math.round(k * frames);
        });
      },
      gesture,
    );
  }

  /** Puts moves on other things than they are on. */
  retarget(ids: readonly string[], { kind, id }: Selected): void {
    const shot = this.studio.shot();
    const moves = ids.flatMap((each) => shot?.moves[each] ?? []);
    const targets = new Map(moves.map((move) => [move.id, this.actsOn(move, { kind, id })]));
    if ([...targets.values()].every((target) => target === null)) {
      return this.notices.say('None of these moves can act on that.');
    }
    this.inShot('Move to another thing', (draft) => {
      for (const [each, target] of targets) if (target && draft.moves[each]) draft.moves[each].target = target;
    });
  }
}
