import { LIMITS, newCamera, newDocument, type Light, type ProjectDocument, type Vector3 } from '../document';

/** Longest side in millimetres of a product that camera, lamps and floor of a new project are made for. */
const MADE_FOR = 240;
/** Part of the picture's height and width that a product takes at most. */
const FILLED = 0.62;
/** Width of a picture over its height that is reckoned with. */
const ASPECT = 16 / 9;

const alike = (a: readonly number[], b: readonly number[]): boolean => a.every((v, k) => Math.abs(v - b[k]!) < 1e-6);
const within = (low: number, high: number, v: number): number => Math.min(high, Math.max(low, v));
const coordinates = (v: readonly number[]): Vector3 =>
  v.map((each) => within(-LIMITS.coordinate, LIMITS.coordinate, each)) as Vector3;

/**
 * Gives the camera, the lamps, the floor and the air of a project the size of its first product, as far as they are still as a new project
 * has them. What was placed by hand stays.
 * @param center of the product in the world, and its size along the axes, millimetres
 */
export function fitStage(draft: ProjectDocument, center: Vector3, size: Vector3): void {
  const fresh = newDocument('');
  const longest = Math.max(...size);
  if (!(longest > 0)) return;
  const factor = longest / MADE_FOR;
  const plain = newCamera();
  for (const camera of Object.values(draft.cameras)) {
    if (!alike(camera.position, plain.position) || !alike(camera.target, plain.target)) continue;
    const tanX = camera.sensorWidth / 2 / camera.focalLength;
    const radius = Math.hypot(...size) / 2;
    const distance = radius / (FILLED * Math.min(tanX, tanX / ASPECT));
    const way = plain.position.map((v, k) => v - plain.target[k]!);
    const length = Math.hypot(...way);
    camera.target = coordinates(center);
    camera.position = coordinates(center.map((v, k) => v + (way[k]! / length) * distance));
    camera.focusDistance = within(1, 1e7, distance);
    camera.orthographicWidth = within(0.1, 1e6, camera.orthographicWidth * factor);
  }
  for (const light of Object.values(draft.lights)) {
    const like = Object.values(fresh.lights).find(
      ({ kind, position, width, height }) =>
        kind === light.kind && alike(position, light.position) && width === light.width && height === light.height,
    );
    if (like) scaleLamp(light, factor);
  }
  const { floor, air } = draft.set;
  if (floor.size === fresh.set.floor.size && floor.depth === fresh.set.floor.depth) {
    floor.size = within(10, 1e6, round(floor.size * factor));
    floor.depth = within(0, 1e6, round(floor.depth * factor));
  }
  if (air.density === 0 && air.reach === fresh.set.air.reach) air.reach = within(1, 1e6, round(air.reach * factor));
}

/** A lamp in proportion: so much farther, larger and stronger that what it lights is as bright. */
function scaleLamp(light: Light, factor: number): void {
  light.position = coordinates(light.position.map((v) => round(v * factor)));
  light.target = coordinates(light.target.map((v) => round(v * factor)));
  for (const side of ['width', 'height', 'radius'] as const)
    light[side] = within(0.1, 1e6, round(light[side] * factor));
  if (light.unit !== 'nit' && light.unit !== 'lux') light.power = within(0, 1e9, round(light.power * factor * factor));
}

/** Three digits are enough for what is only proposed. */
const round = (v: number): number => Number(v.toPrecision(3));
