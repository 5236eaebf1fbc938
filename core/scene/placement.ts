import type { Camera, Light, SceneNode } from '../document';
import {
  add,
  composeTransform,
  copyPlaces,
  copyTurn,
  IDENTITY,
  mix,
  multiplyQuaternions,
  multiplyTransforms,
  quaternionFromTurn,
  scale,
  transformPoint,
  type Quaternion,
  type Transform,
  type Vector,
} from '../geometry';
import { placeAimed } from './carried';
import { lampsOf } from './lightTrack';
import { focusDistanceTo } from './focus';
import type { CopyPose, SceneState } from './state';

/**
 * World transforms of nodes of an evaluated state, by id; of what is copied, as if it were not.
 * @param of the nodes that are asked for, all where none are named; what they hang under comes with them
 */
export function worldTransforms(
  state: SceneState,
  of: readonly string[] = Object.keys(state.nodes),
): Map<string, Transform> {
  const world = new Map<string, PlacedNode>();
  for (const id of of) if (state.nodes[id]) placeNode(state, state.nodes[id], world);
  return new Map([...world].map(([id, { transform }]) => [id, transform]));
}

/** Lights and cameras of an evaluated state as they stand in the world, aimed and sharp at what they follow; of a track the first lamp. */
export function placedAimed(
  state: SceneState,
  world = new Map<string, PlacedNode>(),
): Pick<SceneState, 'lights' | 'cameras'> {
  const place = <T extends Light | Camera>(each: T): T => {
    const carrier = each.parent === null ? undefined : state.nodes[each.parent];
    return carrier ? placeAimed(each, placeNode(state, carrier, world).transform) : each;
  };
  const sharpAt = (camera: Camera, on: { node: string; point: Vector } | null): number => {
    const followed = on && state.nodes[on.node];
    if (!followed) return camera.focusDistance;
    const [x, y, z] = transformPoint(placeNode(state, followed, world).transform, on.point);
    return focusDistanceTo(camera, [x, y, z]);
  };
  const focus = (camera: Camera): Camera => {
    const pull = state.pulls.get(camera.id);
    const focusDistance = pull
      ? sharpAt(camera, pull.from ?? camera.focusOn) * (1 - pull.share) +
        sharpAt(camera, pull.to ?? camera.focusOn) * pull.share
      : sharpAt(camera, camera.focusOn);
    return focusDistance === camera.focusDistance ? camera : { ...camera, focusDistance: Math.max(1, focusDistance) };
  };
  const aimedAt = (each: Light | Camera, on: { node: string; point: Vector } | null): Vector => {
    const followed = on && state.nodes[on.node];
    return followed && on ? transformPoint(placeNode(state, followed, world).transform, on.point) : each.target;
  };
  const aim = <T extends Light | Camera>(each: T): T => {
    const pull = state.aims.get(each.id);
    const [x, y, z] = pull
      ? mix(aimedAt(each, pull.from ?? each.aimOn), aimedAt(each, pull.to ?? each.aimOn), pull.share)
      : aimedAt(each, each.aimOn);
    return pull || each.aimOn ? { ...each, target: [x, y, z] } : each;
  };
  const light = (each: Light): Light => lampsOf(aim(place(each)), state.moment)[0]!;
  const all = <T extends Light | Camera>(record: Record<string, T>, change: (each: T) => T) =>
    Object.fromEntries(Object.entries(record).map(([id, each]) => [id, change(each)]));
  return { lights: all(state.lights, light), cameras: all(state.cameras, (camera) => focus(aim(place(camera)))) };
}

/** Transforms of nodes that cannot change any more: most of a scene stands still. */
const standing = new WeakMap<SceneNode, Transform>();

/** A node's own transform: scale and turn about its pivot, then its position. */
export function localTransform(node: SceneNode, spin?: Quaternion): Transform {
  const known = spin ? undefined : standing.get(node);
  if (known) return known;
  const made = transformAbout(node.pivot, node.position, spunTurn(node, spin), node.scale);
  if (!spin && Object.isFrozen(node)) standing.set(node, made);
  return made;
}

/**
 * The transforms of all copies of a node, in the space of what it hangs under; its own alone where it has none.
 * @param poses of the copies where each stands in its own way
 */
export function copyTransforms(node: SceneNode, spin?: Quaternion, poses?: readonly CopyPose[]): Transform[] {
  if (!node.copies) return [localTransform(node, spin)];
  const turn = spunTurn(node, spin);
  return copyPlaces(node.copies).map((place, k) => {
    const pose = poses?.[k];
    const own = pose ? spunTurn(node, pose.spin) : turn;
    const position = add(pose?.position ?? node.position, place.offset);
    return transformAbout(node.pivot, position, copyTurn(place, own), scale(node.scale, place.scale));
  });
}

const spunTurn = (node: SceneNode, spin?: Quaternion): Quaternion =>
  spin ? multiplyQuaternions(spin, quaternionFromTurn(node.turn)) : quaternionFromTurn(node.turn);

function transformAbout(pivot: Vector, position: Vector, turn: Quaternion, size: Vector): Transform {
  const turned = composeTransform(add(position, pivot), turn, size);
  if (pivot[0] === 0 && pivot[1] === 0 && pivot[2] === 0) return turned;
  return multiplyTransforms(turned, [1, 0, 0, -pivot[0], 0, 1, 0, -pivot[1], 0, 0, 1, -pivot[2]]);
}

/** By what something is seen. */
export type Seen = Pick<SceneNode, 'visibleToCamera' | 'visibleInMirrors' | 'castsShadows' | 'ofPlate'>;

export const SEEN_BY_ALL: Seen = {
  visibleToCamera: true,
  visibleInMirrors: true,
  castsShadows: true,
  ofPlate: 'no',
};

/** Where a node stands and is shown. */
export interface PlacedNode {
  /** As if neither it nor what it hangs under were copied. */
  transform: Transform;
  /** Every place at which it is shown. */
  instances: Transform[];
  visible: boolean;
  /** What of it and all that it hangs under says so. */
  seen: Seen;
}

/** Copies in copies multiply; more than this of one node are left out, so that no document can fill the memory. */
const MOST_INSTANCES = 50_000;

function manyInstances(outer: readonly Transform[], own: readonly Transform[]): Transform[] {
  const made: Transform[] = [];
  for (const each of outer) {
    for (const local of own) {
      if (made.length >= MOST_INSTANCES) return made;
      made.push(multiplyTransforms(each, local));
    }
  }
  return made;
}

/** Most things are seen by all: they share what says so. */
function seenBelow(above: Seen, node: Seen): Seen {
  if (node.visibleToCamera && node.visibleInMirrors && node.castsShadows && node.ofPlate === 'no') return above;
  return {
    visibleToCamera: above.visibleToCamera && node.visibleToCamera,
    visibleInMirrors: above.visibleInMirrors && node.visibleInMirrors,
    castsShadows: above.castsShadows && node.castsShadows,
    ofPlate: node.ofPlate === 'no' ? above.ofPlate : node.ofPlate,
  };
}

const WORLD: PlacedNode = {
  transform: IDENTITY,
  instances: [IDENTITY],
  visible: true,
  seen: SEEN_BY_ALL,
};

/** Places a node of a state, and what it hangs under. @param world those placed already, by id */
export function placeNode(state: SceneState, node: SceneNode, world: Map<string, PlacedNode>): PlacedNode {
  const known = world.get(node.id);
  if (known) return known;
  const parentNode = node.parent === null ? undefined : state.nodes[node.parent];
  const parent = parentNode ? placeNode(state, parentNode, world) : WORLD;
  const spin = state.spins.get(node.id);
  const transform = multiplyTransforms(parent.transform, localTransform(node, spin));
  const plain = !node.copies && parent.instances.length === 1 && parent.instances[0] === parent.transform;
  const placed = {
    transform,
    instances: plain
      ? [transform]
      : manyInstances(parent.instances, copyTransforms(node, spin, state.copyPoses.get(node.id))),
    visible: parent.visible && node.visible,
    seen: seenBelow(parent.seen, node),
  };
  world.set(node.id, placed);
  return placed;
}
