import {
  LIMITS,
  newCamera,
  newDocument,
  type Camera,
  type Light,
  type ProjectDocument,
  type Vector3,
} from '../document';

/** Longest side in millimetres of a product that camera, lamps and floor of a new project are made for. */
const MADE_FOR = 240;
/** Part of the picture's height and width that a product takes at most. */
const FILLED = 0.62;

/** Equal within what single precision leaves of lengths of the size of b. */
const alike = (a: readonly number[], b: readonly number[]): boolean =>
  a.every((v, k) => Math.abs(v - b[k]!) <= 1e-4 * Math.max(0.01, ...b.map(Math.abs)));
const within = (low: number, high: number, v: number): number => Math.min(high, Math.max(low, v));
const coordinates = (v: readonly number[]): Vector3 =>
  v.map((each) => within(-LIMITS.coordinate, LIMITS.coordinate, each)) as Vector3;

/** What a stage is made for: where it is in the world, and its size along the axes, millimetres. */
export interface Product {
  center: Vector3;
  size: Vector3;
}

/**
 * Gives the camera, the lamps, the floor and the air of a project the size of its only product, as far as they are still as they were made
 * for what was there before. What was placed by hand stays.
 * @param before the same product in its former size; null for the stage of a new project
 */
export function fitStage(draft: ProjectDocument, product: Product, before: Product | null = null): void {
  if (!(Math.max(...product.size) > 0)) return;
  const aspect = draft.picture.width / draft.picture.height;
  const [was, next] = [stageFor(before), stageFor(product)];
  for (const camera of Object.values(draft.cameras)) {
    const made = before ? cameraFor(camera, before, aspect) : newCamera();
    if (alike(camera.position, made.position) && alike(camera.target, made.target))
      Object.assign(camera, cameraFor(camera, product, aspect));
  }
  for (const [id, light] of Object.entries(was.lights)) {
    const measures = (each: Light) => [...each.position, each.width, each.height];
    for (const own of Object.values(draft.lights))
      if (own.kind === light.kind && alike(measures(own), measures(light))) takeMeasures(own, light, next.lights[id]!);
  }
  const { floor, air } = draft.set;
  if (alike([floor.size, floor.depth], [was.set.floor.size, was.set.floor.depth])) {
    floor.size = next.set.floor.size;
    floor.depth = next.set.floor.depth;
  }
  if (air.density === 0 && alike([air.reach], [was.set.air.reach])) air.reach = next.set.air.reach;
}

/** A new project's lamps, floor and air in the size of a product; as a new project has them where there is none yet. */
function stageFor(product: Product | null): Pick<ProjectDocument, 'lights' | 'set'> {
  const { lights, set } = newDocument('');
  // Lamps of two stages are told by their order: a new document names them anew.
  const stage = { lights: Object.fromEntries(Object.values(lights).map((light, k) => [k, light])), set };
  if (!product) return stage;
  const factor = Math.max(...product.size) / MADE_FOR;
  for (const light of Object.values(stage.lights)) scaleLamp(light, factor);
  set.floor.size = within(10, 1e6, round(set.floor.size * factor));
  set.floor.depth = within(0, 1e6, round(set.floor.depth * factor));
  set.air.reach = within(1, 1e6, round(set.air.reach * factor));
  return stage;
}

/**
 * Where a camera of some lens stands to see a product whole, from where a new project's camera looks.
 * @param aspect width of the picture over its height
 */
function cameraFor(
  { focalLength, sensorWidth }: Camera,
  { center, size }: Product,
  aspect: number,
): Pick<Camera, 'target' | 'position' | 'focusDistance' | 'orthographicWidth'> {
  const plain = newCamera();
  const tanX = sensorWidth / 2 / focalLength;
  const distance = Math.hypot(...size) / 2 / (FILLED * Math.min(tanX, tanX / aspect));
  const way = plain.position.map((v, k) => v - plain.target[k]!);
  const length = Math.hypot(...way);
  return {
    target: coordinates(center),
    position: coordinates(center.map((v, k) => v + (way[k]! / length) * distance)),
    focusDistance: within(1, 1e7, distance),
    orthographicWidth: within(0.1, 1e6, (plain.orthographicWidth * Math.max(...size)) / MADE_FOR),
  };
}

/** A lamp moves and grows from one stage to another; what else was changed of it stays. */
function takeMeasures(own: Light, was: Light, next: Light): void {
  own.position = [...next.position];
  if (alike(own.target, was.target)) own.target = [...next.target];
  for (const side of ['width', 'height', 'radius'] as const) if (own[side] === was[side]) own[side] = next[side];
  if (own.unit !== was.unit) return;
  // Exactly there and back again, where it was not changed.
  if (own.power === was.power) own.power = next.power;
  else if (was.power > 0) own.power = within(0, 1e9, round((own.power * next.power) / was.power));
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
