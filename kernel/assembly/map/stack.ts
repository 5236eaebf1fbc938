// Finishes as their maps make them: layers that come over each other, the parameter itself at the bottom.

import {
  BLEND_ADD,
  BLEND_DIFFERENCE,
  BLEND_MASK,
  BLEND_MULTIPLY,
  BLEND_OVER,
  FINISH_HEIGHT,
  FINISH_MAP_COUNT,
  FINISH_MAPS,
  FINISH_NORMAL,
  FINISH_RELIEF,
  FINISH_SIZE,
  FINISH_SLOPE,
  MAP_BLEND,
  MAP_BOUNDED,
  MAP_CHANNEL,
  MAP_COMPONENTS,
  MAP_CONTRAST,
  MAP_CURVE,
  MAP_DARK,
  MAP_FLAGS,
  MAP_HIGH,
  MAP_LOW,
  MAP_MATRIX,
  MAP_SHADES,
  MAP_SHADE_COUNT,
  MAP_REMAPPED,
  MAP_SELF_MASKED,
  MAP_SIZE,
  MAP_STRENGTH,
  MAP_TARGET,
  MAP_WORTH,
  POINT_ACROSS,
  POINT_ACROSS_OBJECT,
  POINT_OBJECT,
  POINT_PER_LENGTH,
  POINT_PLACE,
  POINT_SIZE,
  POINT_TANGENT,
  POINT_TANGENT_OBJECT,
  POINT_U,
  POINT_V,
  POINT_WIDTH,
} from '../layout';
import { pointOfVertex } from '../point';
import { readSource, sourceA, sourceB, sourceG, sourceR } from './source';

const ONE: f32 = 1;

/** The finish of the path's vertex stays while light samples open those of walls and lamps. */
let vertexRoom: usize = 0;
let otherRoom: usize = 0;
/** The one of both that is being made. */
let room: usize = 0;
/** A point a little aside, from which the slope of a relief is taken. */
let asideRoom: usize = 0;

/** Gives this worker room for two finishes and a shading point. */
export function setMapRoom(at: usize): void {
  vertexRoom = at;
  otherRoom = at + FINISH_SIZE;
  asideRoom = at + 2 * FINISH_SIZE;
}

/**
 * The finish as its maps make it at a shading point: the finish itself where it has none, else a copy that the next call for the vertex of
 * the path, or else for anything but that, overwrites.
 */
export function mappedFinish(finish: usize, point: usize): usize {
  const count = load<u32>(finish, FINISH_MAP_COUNT);
  if (count === 0) return finish;
  room = point === pointOfVertex ? vertexRoom : otherRoom;
  memory.copy(room, finish, FINISH_SIZE);
  const maps = <usize>load<u32>(finish, FINISH_MAPS);
  for (let k: u32 = 0; k < count; k++) {
    const map = maps + <usize>k * MAP_SIZE;
    const target = load<u32>(map, MAP_TARGET);
    if (target === FINISH_HEIGHT) continue;
    if (target === FINISH_NORMAL) tilt(map, point);
    else blendLayer(map, point, finish);
  }
  if (load<u32>(finish, FINISH_RELIEF) !== 0) openSlope(finish, point, maps, count);
  return room;
}

/** Tilts the normal by a picture of normals; those above tilt it further. */
function tilt(map: usize, point: usize): void {
  readSource(map, point);
  const target = room + FINISH_NORMAL;
  const strength = load<f32>(map, MAP_STRENGTH);
  // A tilt along the picture's rows and columns is one along the surface's coordinates by the transpose of the matrix.
  const tiltU = strength * (<f32>2 * sourceR - 1),
    tiltV = -strength * (<f32>2 * sourceG - 1);
  const m = map + MAP_MATRIX;
  const a = load<f32>(m),
    b = load<f32>(m, 4),
    c = load<f32>(m, 12),
    d = load<f32>(m, 16);
  const alongU = sqrt<f32>(max<f32>(1e-20, a * a + c * c)),
    alongV = sqrt<f32>(max<f32>(1e-20, b * b + d * d));
  store<f32>(target, load<f32>(target) + (a * tiltU + c * tiltV) / alongU);
  store<f32>(target, load<f32>(target, 4) + (b * tiltU + d * tiltV) / alongV, 4);
}

/** What came of the source's values: results of `remap`. */
let valueR: f32 = 0;
let valueG: f32 = 0;
let valueB: f32 = 0;
/** How much of the layer is there. */
let amount: f32 = 0;

function brightness(): f32 {
  return <f32>0.2126 * sourceR + <f32>0.7152 * sourceG + <f32>0.0722 * sourceB;
}

function ranged(map: usize, value: f32): f32 {
  const t = min<f32>(1, max<f32>(0, (value - load<f32>(map, MAP_DARK)) * load<f32>(map, MAP_CONTRAST)));
  const curve = load<f32>(map, MAP_CURVE);
  return curve === 1 || t <= 0 ? t : Mathf.pow(t, curve);
}

function single(map: usize): f32 {
  const channel = load<u32>(map, MAP_CHANNEL);
  if (channel === 0) return sourceR;
  if (channel === 1) return sourceG;
  if (channel === 2) return sourceB;
  return channel === 3 ? sourceA : brightness();
}

/** Makes of what the source gave what the layer blends: by range, curve and shades. */
function remap(map: usize): void {
  const flags = load<u32>(map, MAP_FLAGS);
  const colored = load<u32>(map, MAP_COMPONENTS) === 3;
  amount = load<f32>(map, MAP_STRENGTH);
  const plain = (flags & MAP_REMAPPED) === 0;
  // The opacity of what is read by its opacity alone says how much of it there is only once.
  if (load<u32>(map, MAP_BLEND) !== BLEND_MULTIPLY && (colored || load<u32>(map, MAP_CHANNEL) !== 3)) amount *= sourceA;
  if (plain) {
    valueR = colored ? sourceR : single(map);
    valueG = sourceG;
    valueB = sourceB;
    if ((flags & MAP_SELF_MASKED) !== 0) amount *= min<f32>(1, max<f32>(0, colored ? brightness() : valueR));
    return;
  }
  const low = load<f32>(map, MAP_LOW),
    span = load<f32>(map, MAP_HIGH) - low;
  if (!colored) {
    const t = ranged(map, single(map));
    valueR = low + span * t;
    if ((flags & MAP_SELF_MASKED) !== 0) amount *= t;
    return;
  }
  const t = ranged(map, brightness());
  if ((flags & MAP_SELF_MASKED) !== 0) amount *= t;
  const stops = load<u32>(map, MAP_SHADE_COUNT);
  if (stops > 0) {
    climb(<usize>load<u32>(map, MAP_SHADES), stops, t);
    return;
  }
  valueR = low + span * ranged(map, sourceR);
  valueG = low + span * ranged(map, sourceG);
  valueB = low + span * ranged(map, sourceB);
}

/** The shade at a value. */
function climb(shades: usize, stops: u32, t: f32): void {
  let at = shades;
  let next = shades;
  for (let k: u32 = 0; k < stops; k++) {
    next = shades + ((<usize>k) << 4);
    if (load<f32>(next) > t) break;
    at = next;
  }
  const from = load<f32>(at),
    to = load<f32>(next);
  const part: f32 = to > from ? min<f32>(1, max<f32>(0, (t - from) / (to - from))) : 0;
  valueR = load<f32>(at, 4) + part * (load<f32>(next, 4) - load<f32>(at, 4));
  valueG = load<f32>(at, 8) + part * (load<f32>(next, 8) - load<f32>(at, 8));
  valueB = load<f32>(at, 12) + part * (load<f32>(next, 12) - load<f32>(at, 12));
}

function blendLayer(map: usize, point: usize, finish: usize): void {
  readSource(map, point);
  remap(map);
  const offset = <usize>load<u32>(map, MAP_TARGET);
  blend(map, room + offset, finish + offset, valueR);
  if (load<u32>(map, MAP_COMPONENTS) !== 3) return;
  blend(map, room + offset + 4, finish + offset + 4, valueG);
  blend(map, room + offset + 8, finish + offset + 8, valueB);
}

/** @param base the parameter as it is without maps */
function blend(map: usize, target: usize, base: usize, value: f32): void {
  const kind = load<u32>(map, MAP_BLEND);
  const below = load<f32>(target);
  if (kind === BLEND_MULTIPLY) {
    store<f32>(target, below * (1 + amount * (value - 1)));
    return;
  }
  const worth = load<f32>(map, MAP_WORTH);
  const own = value * worth;
  let result: f32 = below;
  if (kind === BLEND_OVER) result = below + amount * (own - below);
  else if (kind === BLEND_ADD) result = below + amount * own;
  else if (kind === BLEND_DIFFERENCE) result = below + amount * (abs(below - own) - below);
  else if (kind === BLEND_MASK) {
    const plain = load<f32>(base);
    result = plain + (below - plain) * (ONE + amount * (value - ONE));
  } else result = below + amount * own * (ONE - below / max<f32>(1e-20, worth));
  if ((load<u32>(map, MAP_FLAGS) & MAP_BOUNDED) !== 0) result = min<f32>(1, max<f32>(0, result));
  store<f32>(target, result);
}

/** Height of the relief at a point, mm. */
function heightAt(finish: usize, point: usize, maps: usize, count: u32): f32 {
  store<f32>(room, 0, FINISH_HEIGHT);
  for (let k: u32 = 0; k < count; k++) {
    const map = maps + <usize>k * MAP_SIZE;
    if (load<u32>(map, MAP_TARGET) === FINISH_HEIGHT) blendLayer(map, point, finish);
  }
  return load<f32>(room, FINISH_HEIGHT);
}

/** How the height grows along the surface, from two places aside (James Blinn, Simulation of Wrinkled Surfaces, 1978). */
function openSlope(finish: usize, point: usize, maps: usize, count: u32): void {
  const step = max<f32>(0.002, load<f32>(point, POINT_WIDTH) * <f32>0.7);
  const here = heightAt(finish, point, maps, count);
  stepAside(point, step, POINT_TANGENT, POINT_TANGENT_OBJECT, 1, 0);
  const along = (heightAt(finish, asideRoom, maps, count) - here) / step;
  stepAside(point, step, POINT_ACROSS, POINT_ACROSS_OBJECT, 0, 1);
  const across = (heightAt(finish, asideRoom, maps, count) - here) / step;
  const t = point + POINT_TANGENT,
    b = point + POINT_ACROSS,
    slope = room + FINISH_SLOPE;
  store<f32>(slope, along * load<f32>(t) + across * load<f32>(b));
  store<f32>(slope, along * load<f32>(t, 4) + across * load<f32>(b, 4), 4);
  store<f32>(slope, along * load<f32>(t, 8) + across * load<f32>(b, 8), 8);
}

/** Opens a point aside, along a way in the world and what it is in the part's own space. */
function stepAside(point: usize, step: f32, way: usize, wayInPart: usize, u: f32, v: f32): void {
  memory.copy(asideRoom, point, POINT_SIZE);
  for (let c: usize = 0; c < 12; c += 4) {
    const place = asideRoom + POINT_PLACE + c,
      object = asideRoom + POINT_OBJECT + c;
    store<f32>(place, load<f32>(place) + step * load<f32>(point + way + c));
    store<f32>(object, load<f32>(object) + step * load<f32>(point + wayInPart + c));
  }
  const coordinates = step * load<f32>(point, POINT_PER_LENGTH);
  store<f32>(asideRoom, load<f32>(asideRoom, POINT_U) + u * coordinates, POINT_U);
  store<f32>(asideRoom, load<f32>(asideRoom, POINT_V) + v * coordinates, POINT_V);
}
