import { readProperty, type Vector3 } from '../document';
import {
  add,
  cross,
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

/** New values of properties, by path, that carry what is held by a distance in the world. */
export function carried(state: SceneState, grip: Grip, by: Vector3): Record<string, Vector3> {
  const path = `${grip.collection}/${grip.id}/position`;
  const position = readProperty(state, path) as Vector3 | undefined;
  if (!position) return {};
  const inverse = invertTransform(parentTransform(state, state[grip.collection][grip.id]!));
  return inverse ? { [path]: add(position, transformDirection(inverse, by)) } : {};
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
    const aimed = state[collection][id];
    if (!aimed) return {};
    const carrier = parentTransform(state, aimed);
    const inverse = invertTransform(carrier);
    if (!inverse) return {};
    const aim = transformDirection(carrier, subtract(aimed.target, aimed.position));
    return { [`${collection}/${id}/target`]: add(aimed.position, transformDirection(inverse, rotateVector(aim, by))) };
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
