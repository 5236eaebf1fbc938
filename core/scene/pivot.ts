import type { ProjectDocument, SceneNode, Vector3 } from '../document';
import {
  composeTransform,
  invertTransform,
  normalize,
  quaternionFromTurn,
  rotateVector,
  transformDirection,
  transformPoint,
  type Transform,
  type Vector,
} from '../geometry';
import { carryPlaces } from './carriedMotion';

/**
 * Gives a node another turning point, and another axis if there is one; it stays where it is, and so do the places of its
 * keys. Both are in the node's own space.
 */
export function setPivot(draft: ProjectDocument, id: string, pivot: Vector, axis?: Vector): void {
  const node = draft.nodes[id];
  if (!node) return;
  // The place is that of the turning point less the turning point: what turn and scale do to the way between them is added.
  const shift = node.pivot.map((v, k) => v - pivot[k]!) as Vector3;
  const turned = transformDirection(composeTransform([0, 0, 0], quaternionFromTurn(node.turn), node.scale), shift);
  const by = shift.map((v, k) => v - turned[k]!) as Vector3;
  node.position = node.position.map((v, k) => v + by[k]!) as Vector3;
  carryPlaces(draft, id, by);
  node.pivot = [...pivot];
  if (axis) node.axis = normalize(axis);
}

/**
 * The same with a turning point and axis in the world.
 * @param at where the node stands in the world when these were picked
 */
export function setPivotInWorld(draft: ProjectDocument, id: string, at: Transform, pivot: Vector, axis?: Vector): void {
  const inverse = invertTransform(at);
  if (!inverse) return;
  // A millionth of a millimetre, and less still of a direction, is nothing but the noise of reckoning.
  const tidy = (v: Vector, by: number) => v.map((each) => Math.round(each * by) / by + 0) as Vector3;
  const direction = axis && tidy(normalize(transformDirection(inverse, axis)), 1e9);
  setPivot(draft, id, tidy(transformPoint(inverse, pivot), 1e6), direction);
}

/** A node's axis in the space of what it hangs under, in which moves turn. */
export const axisInParent = ({ axis, turn }: Pick<SceneNode, 'axis' | 'turn'>): Vector3 =>
  rotateVector(normalize(axis), quaternionFromTurn(turn));
