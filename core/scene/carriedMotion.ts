import { behaviourOf, type SpaceChange } from '../motion/moves';
import { copyOf, newId, type Move, type ProjectDocument, type SceneNode, type Vector3 } from '../document';
import {
  add,
  decompose,
  multiplyQuaternions,
  quaternionFromTurn,
  rotateVector,
  subtract,
  transformDirection,
  transformPoint,
  turnFromQuaternion,
  type Quaternion,
  type Transform,
  type Vector,
} from '../geometry';
type Pose = 'position' | 'turn' | 'scale';

/** Shifts the places that shots give a node, by their changes, keys and fades, as far as the node itself was shifted. */
export function carryPlaces(draft: ProjectDocument, id: string, by: Vector): void {
  changeValues(draft, `nodes/${id}/position`, (values) => values.map((place) => add(place, by)));
}

/**
 * Gives what shots do to a node the space of another parent: it looks the same in the world as before.
 * Turns about several axes at once are kept as poses, not as whole turns, where the parents are turned against each other.
 * @param change from the space of the parent before to that of the new one
 */
export function carryMotion(draft: ProjectDocument, node: SceneNode, change: Transform): void {
  const { turn, scale } = decompose(change);
  const turned = quaternionFromTurn(turn);
  const placed = (place: Vector): Vector3 => [...subtract(transformPoint(change, add(place, node.pivot)), node.pivot)];
  const carry: Record<Pose, (values: Vector3[]) => Vector3[]> = {
    position: (places) => places.map(placed),
    turn: (turns) => turnedBy(turned, turns),
    scale: (scales) => scales.map((each) => each.map((v, k) => v * scale[k]!) as Vector3),
  };
  for (const property of Object.keys(carry) as Pose[]) {
    changeValues(draft, `nodes/${node.id}/${property}`, carry[property]);
  }
  const space: SpaceChange = {
    point: (of) => transformPoint(change, of),
    way: (of) => transformDirection(change, of),
    direction: (of) => rotateVector(of, turned),
  };
  for (const [move, carrying] of carryingMoves(draft, node.id)) carrying.rehang?.(move, space);
}

/**
 * Gives what shots do to a node the place of one of its copies: copies are moved as the node is, and turned before they are laid out.
 * @param by from the node's place to that of the copy
 * @param turned what the layout turns the copy by
 */
export function carryToCopy(draft: ProjectDocument, id: string, by: Vector, turned: Quaternion): void {
  carryPlaces(draft, id, by);
  changeValues(draft, `nodes/${id}/turn`, (turns) => turnedBy(turned, turns));
  for (const [move, carrying] of carryingMoves(draft, id)) {
    carrying.copied?.(move, by, (axis) => rotateVector(axis, turned));
  }
}

/** What a shot's moves of a node hold grows with it. */
export function growMotion(draft: ProjectDocument, id: string, factor: number): void {
  for (const [move, carrying] of carryingMoves(draft, id)) carrying.grow?.(move, factor);
}

/** Turns with another one outside of them; as they are where that is none, so that whole turns stay. */
function turnedBy(turned: Quaternion, turns: Vector3[]): Vector3[] {
  if (Math.abs(turned[3]) > 1 - 1e-12) return turns;
  return unwound(turns.map((each) => turnFromQuaternion(multiplyQuaternions(turned, quaternionFromTurn(each)))));
}

/** Gives copies of nodes what shots do to the nodes. @param copies ids of the copies by those of the nodes */
export function copyMotion(draft: ProjectDocument, copies: ReadonlyMap<string, string>): void {
  const copied = (path: string): string | null => {
    const [collection, id, ...rest] = path.split('/');
    const copy = collection === 'nodes' && id !== undefined ? copies.get(id) : undefined;
    return copy === undefined ? null : ['nodes', copy, ...rest].join('/');
  };
  for (const shot of Object.values(draft.shots)) {
    for (const record of [shot.changes, shot.tracks] as Record<string, unknown>[]) {
      for (const [path, value] of Object.entries(record)) {
        const to = copied(path);
        if (to) record[to] = copyOf(value);
      }
    }
    for (const move of Object.values(shot.moves)) {
      const target = copied(move.target);
      if (!target) continue;
      const made = { ...copyOf(move), id: newId(), target };
      const behaviour = behaviourOf(made);
      if (behaviour.drives === 'place') behaviour.renamed?.(made, (id) => copies.get(id) ?? id);
      shot.moves[made.id] = made;
    }
  }
}

function movesOf(draft: ProjectDocument, target: string): Move[] {
  return Object.values(draft.shots).flatMap((shot) =>
    Object.values(shot.moves).filter((move) => move.target === target),
  );
}

type Carrying = Extract<ReturnType<typeof behaviourOf>, { drives: 'place' }>;

function carryingMoves(draft: ProjectDocument, node: string): [Move, Carrying][] {
  return movesOf(draft, `nodes/${node}`).flatMap((move) => {
    const behaviour = behaviourOf(move);
    return behaviour.drives === 'place' ? [[move, behaviour] as [Move, Carrying]] : [];
  });
}

/** Changes the values that shots give a property: each shot's own, those of its keys in their order, and those of fades. */
function changeValues(draft: ProjectDocument, path: string, change: (values: Vector3[]) => Vector3[]): void {
  for (const shot of Object.values(draft.shots)) {
    if (shot.changes[path]) shot.changes[path] = change([shot.changes[path] as Vector3])[0]!;
    const keys = shot.tracks[path] ?? [];
    change(keys.map(({ value }) => value as Vector3)).forEach((value, k) => (keys[k]!.value = value));
  }
  for (const move of movesOf(draft, path)) {
    const behaviour = behaviourOf(move);
    if (behaviour.drives === 'value') behaviour.mapValues?.(move, (values) => change(values as Vector3[]));
  }
}

/** Angles that go on from those before instead of leaping by whole turns. */
export function unwound(turns: readonly Vector3[]): Vector3[] {
  let before = turns[0];
  return turns.map((turn) => {
    before = turn.map((v, k) => v + Math.round((before![k]! - v) / (2 * Math.PI)) * 2 * Math.PI) as Vector3;
    return before;
  });
}
