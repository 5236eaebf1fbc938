import type { Move, ProjectDocument, Shot } from '../document';
import {
  copyCount,
  invertTransform,
  mix,
  slerp,
  subtract,
  transformDirection,
  transformPoint,
  type Quaternion,
  type Vector,
} from '../geometry';
import { placeNode, worldTransforms, type SceneState } from '../scene';
import { behaviourOf, changedBy, type Around, type Pose } from './moves';

const UNTURNED: Quaternion = [0, 0, 0, 1];
type Carried = 'nodes' | 'cameras' | 'lights';

/** How a document's things stand on another frame: what a move that goes by another thing asks. */
export type Elsewhere = (node: string, frame: number) => Vector | null;

/**
 * Lays a move of whole things over a state, as far as its weight says.
 * @param own gives the state its own copy of what a path leads to
 */
export function carryThings(
  state: SceneState,
  move: Move,
  frame: number,
  own: (path: string) => void,
  elsewhere: Elsewhere,
): void {
  const behaviour = behaviourOf(move);
  if (behaviour.drives !== 'place') return;
  for (const path of changedBy(move)) {
    const [collection, id] = path.split('/') as [Carried, string];
    if (!['nodes', 'cameras', 'lights'].includes(collection) || !state[collection][id]) continue;
    own(`${path}/position`);
    const before = poseOf(state, collection, id);
    const pose: Pose = { ...before, lens: before.lens && { ...before.lens } };
    behaviour.carry(move, frame, pose, aroundOf(state, collection, id, elsewhere));
    putPose(state, collection, id, move.weight < 1 ? partly(before, pose, move.weight) : pose);
    if (collection === 'nodes') carryCopies(state, move, frame, before, aroundOf(state, collection, id, elsewhere));
  }
}

/** Copies that a move reaches one after the other; once one does, all further moves reach each by itself. */
function carryCopies(state: SceneState, move: Move, frame: number, before: Pose, around: Around): void {
  const behaviour = behaviourOf(move);
  const { copies } = state.nodes[around.id]!;
  const known = state.copyPoses.get(around.id);
  if (behaviour.drives !== 'place' || !copies || (move.perCopy === 0 && !known)) return;
  const poses = Array.from({ length: copyCount(copies) }, (_, k) => {
    const own = known?.[k] ?? before;
    const from: Pose = { ...before, position: own.position, spin: own.spin };
    const pose = { ...from };
    behaviour.carry(move, frame - k * move.perCopy, pose, around);
    const { position, spin } = move.weight < 1 ? partly(from, pose, move.weight) : pose;
    return { position, spin };
  });
  state.copyPoses.set(around.id, poses);
}

function poseOf(state: SceneState, collection: Carried, id: string): Pose {
  const moved = state[collection][id]!;
  const spin = state.spins.get(id) ?? UNTURNED;
  if ('pivot' in moved)
    return { position: moved.position, pivot: moved.pivot, target: null, aim: null, spin, lens: null };
  const lens =
    'focalLength' in moved
      ? {
          focalLength: moved.focalLength,
          roll: moved.roll,
          focusDistance: moved.focusDistance,
          pull: state.pulls.get(id) ?? null,
        }
      : null;
  const aim = state.aims.get(id) ?? null;
  return { position: moved.position, pivot: [0, 0, 0], target: moved.target, aim, spin, lens };
}

function putPose(state: SceneState, collection: Carried, id: string, pose: Pose): void {
  const moved = state[collection][id]!;
  moved.position = [...pose.position];
  if ('target' in moved) moved.target = [...pose.target!];
  else if (pose.spin !== UNTURNED) state.spins.set(id, pose.spin);
  if (pose.aim) state.aims.set(id, pose.aim);
  if (!pose.lens || !('focalLength' in moved)) return;
  const { pull, ...lens } = pose.lens;
  Object.assign(moved, lens);
  if (pull) state.pulls.set(id, pull);
}

/** Part of the way from one pose to another. */
function partly(a: Pose, b: Pose, share: number): Pose {
  const number = (from: number, to: number) => from + (to - from) * share;
  return {
    position: mix(a.position, b.position, share),
    pivot: b.pivot,
    target: a.target && b.target ? mix(a.target, b.target, share) : b.target,
    aim: b.aim && { ...b.aim, share: b.aim.share * share },
    spin: slerp(a.spin, b.spin, share),
    lens:
      a.lens && b.lens
        ? {
            focalLength: number(a.lens.focalLength, b.lens.focalLength),
            roll: number(a.lens.roll, b.lens.roll),
            focusDistance: number(a.lens.focusDistance, b.lens.focusDistance),
            pull: b.lens.pull && { ...b.lens.pull, share: b.lens.pull.share * share },
          }
        : b.lens,
  };
}

function aroundOf(state: SceneState, collection: Carried, id: string, elsewhere: Elsewhere): Around {
  return {
    id,
    wayOf(node, from, to) {
      const [start, end] = [elsewhere(node, from), elsewhere(node, to)];
      if (!start || !end) return null;
      const parent = state[collection][id]!.parent;
      const carrier = parent === null ? undefined : state.nodes[parent];
      const way = subtract(end, start);
      const inverse = carrier && invertTransform(placeNode(state, carrier, new Map()).transform);
      return inverse ? transformDirection(inverse, way) : way;
    },
  };
}

/** Where a node's turning point is in the world, of a state in which it is placed already. */
export function placeIn(state: SceneState, node: string): Vector | null {
  const there = state.nodes[node];
  if (!there) return null;
  return transformPoint(worldTransforms(state, [node]).get(node)!, there.pivot);
}

/** The shot with no more than what moves a node and what that hangs under; and without one move, so that none follows itself. */
export function ofNode(document: ProjectDocument, shot: Shot, node: string, without: Move): Shot {
  const chain = new Set<string>();
  for (let up: string | null = node; up !== null; up = document.nodes[up]?.parent ?? null) chain.add(`nodes/${up}`);
  const moves = Object.values(shot.moves).filter(
    (move) => move.id !== without.id && changedBy(move).some((path) => chain.has(thingOf(path))),
  );
  const only = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([path]) => chain.has(thingOf(path))));
  return {
    ...shot,
    changes: only(shot.changes),
    tracks: only(shot.tracks),
    moves: Object.fromEntries(moves.map((move) => [move.id, move])),
  };
}

/** `nodes/ID` of `nodes/ID/position`. */
export const thingOf = (path: string): string => path.split('/', 2).join('/');
