import type { Move, ProjectDocument, SceneNode, Vector3 } from '../document';
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
  type Transform,
  type Vector,
} from '../geometry';

type Pose = 'position' | 'turn' | 'scale';

/** Shifts the places that shots give a node, by their changes and keys, as far as the node itself was shifted. */
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
  const straight = turn.every((v) => Math.abs(v) < 1e-9);
  const placed = (place: Vector): Vector3 => [...subtract(transformPoint(change, add(place, node.pivot)), node.pivot)];
  const carry: Record<Pose, (values: Vector3[]) => Vector3[]> = {
    position: (places) => places.map(placed),
    turn: (turns) =>
      straight
        ? turns
        : unwound(turns.map((each) => turnFromQuaternion(multiplyQuaternions(turned, quaternionFromTurn(each))))),
    scale: (scales) => scales.map((each) => each.map((v, k) => v * scale[k]!) as Vector3),
  };
  for (const property of Object.keys(carry) as Pose[]) {
    const path = `nodes/${node.id}/${property}`;
    changeValues(draft, path, carry[property]);
    for (const move of movesOf(draft, path)) {
      if (move.kind === 'fade') [move.from, move.to] = carry[property]([move.from, move.to] as Vector3[]) as [Vector3, Vector3]; // prettier-ignore
    }
  }
  for (const move of movesOf(draft, `nodes/${node.id}`)) {
    if (move.kind === 'glide') {
      move.from = [...transformDirection(change, move.from)];
      move.to = [...transformDirection(change, move.to)];
    } else if (move.kind === 'turntable' || move.kind === 'orbit') {
      move.axis = [...rotateVector(move.axis, turned)];
      if (move.kind === 'orbit' && move.center) move.center = [...transformPoint(change, move.center)];
    }
  }
}

function movesOf(draft: ProjectDocument, target: string): Move[] {
  return Object.values(draft.shots).flatMap((shot) =>
    Object.values(shot.moves).filter((move) => move.target === target),
  );
}

/** Changes the values that shots give a property: each shot's own, and those of its keys in their order. */
function changeValues(draft: ProjectDocument, path: string, change: (values: Vector3[]) => Vector3[]): void {
  for (const shot of Object.values(draft.shots)) {
    if (shot.changes[path]) shot.changes[path] = change([shot.changes[path] as Vector3])[0]!;
    const keys = shot.tracks[path] ?? [];
    change(keys.map(({ value }) => value as Vector3)).forEach((value, k) => (keys[k]!.value = value));
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
