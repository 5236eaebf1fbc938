import { LIGHT, readProperty, type Value, type Vector3 } from '../document';
import {
  add,
  cross,
  frameAlong,
  IDENTITY,
  invertTransform,
  multiplyQuaternions,
  normalize,
  quaternionFromFrame,
  quaternionFromTurn,
  rotateVector,
  subtract,
  transformDirection,
  transformPoint,
  turnFromQuaternion,
  type Quaternion,
  type Transform,
} from '../geometry';
import { lampKind } from '../optics/lamps';
import { trackCarried } from './lightTrack';
import { placedAimed, worldTransforms } from './placement';
import type { SceneState } from './state';

/** What a handle in the picture can hold: a node, light or camera. */
export interface Grip {
  collection: 'nodes' | 'lights' | 'cameras';
  id: string;
}

/** World place of what is held: a node's turning point, or where a light or camera stands. Null where it is gone. */
export function gripPlace(state: SceneState, { collection, id }: Grip): Vector3 | null {
  if (collection !== 'nodes') return placedAimed(state)[collection][id]?.position ?? null;
  const node = state.nodes[id];
  return node ? transformPoint(worldTransforms(state, [id]).get(id)!, node.pivot) : null;
}

/** New values of properties, by path, that carry what is held by a distance in the world; of a lamp on a track, that change its track. */
export function carried(state: SceneState, grip: Grip, by: Vector3): Record<string, Value> {
  const light = grip.collection === 'lights' ? placedAimed(state).lights[grip.id] : undefined;
  if (light?.track) {
    const changed = Object.entries(trackCarried(light, by));
    return Object.fromEntries(changed.map(([name, value]) => [`lights/${grip.id}/track/${name}`, value as Value]));
  }
  const path = `${grip.collection}/${grip.id}/position`;
  const position = readProperty(state, path) as Vector3 | undefined;
  if (!position) return {};
  const inverse = invertTransform(parentTransform(state, state[grip.collection][grip.id]!));
  return inverse ? { [path]: add(position, transformDirection(inverse, by)) } : {};
}

/** Point in the world that a light or camera is aimed at; null of what is not aimed. */
export const aimPlace = (state: SceneState, { collection, id }: Grip): Vector3 | null =>
  collection === 'nodes' ? null : (placedAimed(state)[collection][id]?.target ?? null);

/** New values of properties, by path, that aim what is held elsewhere: at a point that is so far from where it is aimed now. */
export function aimed(state: SceneState, { collection, id }: Grip, by: Vector3): Record<string, Vector3> {
  const thing = collection === 'nodes' ? undefined : state[collection][id];
  const inverse = thing && invertTransform(parentTransform(state, thing));
  return inverse ? { [`${collection}/${id}/target`]: add(thing.target, transformDirection(inverse, by)) } : {};
}

/** Whose axes handles are drawn along. */
export type GripAxes = 'world' | 'own' | 'parent';

/** The turn of the axes that handles are drawn along; of a light or camera, its own z axis is where it looks. */
export function gripAxes(state: SceneState, { collection, id }: Grip, whose: GripAxes): Quaternion {
  const thing = state[collection][id];
  if (!thing || whose === 'world') return [0, 0, 0, 1];
  if (whose === 'parent') return rotationOf(parentTransform(state, thing));
  if (collection === 'nodes') return rotationOf(worldTransforms(state, [id]).get(id)!);
  const { target, position } = placedAimed(state)[collection][id]!;
  const { x, y, z } = frameAlong(subtract(target, position));
  return quaternionFromFrame(x, y, z);
}

/**
 * New values of properties that make what is held larger or smaller by factors along its own axes: the scale of a node, what a light
 * shines from. A camera has no size.
 */
export function sized(state: SceneState, { collection, id }: Grip, by: Vector3): Record<string, Value> {
  if (collection === 'nodes') {
    const node = state.nodes[id];
    return node ? { [`nodes/${id}/scale`]: node.scale.map((v, k) => v * by[k]!) as Vector3 } : {};
  }
  const light = collection === 'lights' ? state.lights[id] : undefined;
  const sizes = Object.entries(light ? (lampKind(light).sized?.(light, by) ?? {}) : {});
  return Object.fromEntries(
    sizes.map(([name, value]) => {
      const { min, max } = LIGHT[name as 'width' | 'spanWidth'];
      return [`lights/${id}/${name}`, Math.min(max, Math.max(min, value))];
    }),
  );
}

/** How far a camera is flown in the world: where it stands, and the point it is aimed at. */
export interface Flight {
  position: Vector3;
  target: Vector3;
}

/** New values of properties, by path, that fly a camera by so much; empty where it is gone. */
export function flown(state: SceneState, id: string, by: Flight): Record<string, Vector3> {
  const camera = state.cameras[id];
  const inverse = camera && invertTransform(parentTransform(state, camera));
  if (!inverse) return {};
  return {
    [`cameras/${id}/position`]: add(camera.position, transformDirection(inverse, by.position)),
    [`cameras/${id}/target`]: add(camera.target, transformDirection(inverse, by.target)),
  };
}

/**
 * New values of properties that turn what is held in the world: a node about its turning point, a light or camera about
 * where it stands, so that it aims elsewhere.
 */
export function turned(state: SceneState, { collection, id }: Grip, by: Quaternion): Record<string, Vector3> {
  if (collection !== 'nodes') {
    const thing = state[collection][id];
    if (!thing) return {};
    const carrier = parentTransform(state, thing);
    const inverse = invertTransform(carrier);
    if (!inverse) return {};
    const aim = transformDirection(carrier, subtract(thing.target, thing.position));
    return { [`${collection}/${id}/target`]: add(thing.position, transformDirection(inverse, rotateVector(aim, by))) };
  }
  const node = state.nodes[id];
  if (!node) return {};
  const parent = rotationOf(parentTransform(state, node));
  const spin = state.spins.get(id);
  const outer = spin ? multiplyQuaternions(parent, spin) : parent;
  const back: Quaternion = [-outer[0], -outer[1], -outer[2], outer[3]];
  const own = multiplyQuaternions(multiplyQuaternions(back, by), outer);
  const turn = turnFromQuaternion(multiplyQuaternions(own, quaternionFromTurn(node.turn)));
  return { [`nodes/${id}/turn`]: turn.map((angle, k) => nearestTurn(angle, node.turn[k]!)) as Vector3 };
}

const parentTransform = (state: SceneState, node: { parent: string | null }): Transform =>
  (node.parent !== null && worldTransforms(state, [node.parent]).get(node.parent)) || IDENTITY;

/** The turn of a transform without its scale. */
function rotationOf(m: Transform): Quaternion {
  const x = normalize(transformDirection(m, [1, 0, 0]));
  const y = normalize(transformDirection(m, [0, 1, 0]));
  return quaternionFromFrame(x, y, cross(x, y));
}

/** The same angle, whole turns away, that is nearest to another: a handle never undoes turns that were typed. */
const nearestTurn = (angle: number, near: number): number =>
  angle + Math.round((near - angle) / (2 * Math.PI)) * 2 * Math.PI;
