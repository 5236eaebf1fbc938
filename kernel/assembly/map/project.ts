// Where a shading point lies on what a map lays onto the surface. Written by `project`.

import { arc, arcOfCosine } from '../angle';
import {
  MAP_EXTENT,
  MAP_FLAGS,
  MAP_IN_WORLD,
  MAP_MATRIX,
  MAP_PLACE,
  POINT_COVERED,
  POINT_OBJECT,
  POINT_PLACE,
  POINT_TANGENT_OBJECT,
  POINT_U,
  POINT_V,
  POINT_WIDTH,
  PROJECTION_CAMERA,
  PROJECTION_COORDINATES,
  PROJECTION_CYLINDRICAL,
  PROJECTION_SPHERICAL,
  PROJECTION_WRAPPED,
} from '../layout';

const HALF: f32 = 0.5;
const FULL_TURN: f32 = 0.15915494309;
const INVERSE_PI: f32 = 0.31830988618;

/** Place in what is laid on, in pictures: u to the right, v downwards, w through it. */
export let laidU: f32 = 0;
export let laidV: f32 = 0;
export let laidW: f32 = 0;
/** The part of a picture that a pixel covers; the same in mm. */
export let laidCovered: f32 = 0;
export let laidWidth: f32 = 0;

/** Place in the frame that it is laid on in, mm. */
export let frameX: f32 = 0;
export let frameY: f32 = 0;
export let frameZ: f32 = 0;
function openFrame(map: usize, point: usize): void {
  const at = (load<u32>(map, MAP_FLAGS) & MAP_IN_WORLD) !== 0 ? point + POINT_PLACE : point + POINT_OBJECT;
  const x = load<f32>(at),
    y = load<f32>(at, 4),
    z = load<f32>(at, 8);
  const m = map + MAP_PLACE;
  frameX = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12);
  frameY = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28);
  frameZ = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44);
}

/** How long a mm of the world is where a map is laid on. */
export function lengthThere(map: usize, point: usize): f32 {
  if ((load<u32>(map, MAP_FLAGS) & MAP_IN_WORLD) !== 0) return 1;
  const t = point + POINT_TANGENT_OBJECT;
  const x = load<f32>(t),
    y = load<f32>(t, 4),
    z = load<f32>(t, 8);
  return sqrt<f32>(x * x + y * y + z * z);
}

/** Lays a map on at a point, by any projection but that of a box. */
export function project(map: usize, point: usize, projection: u32): void {
  const extent = map + MAP_EXTENT;
  if (projection === PROJECTION_COORDINATES) {
    laidU = load<f32>(point, POINT_U);
    laidV = load<f32>(point, POINT_V);
    laidW = 0;
    laidCovered = load<f32>(point, POINT_COVERED);
    laidWidth = laidCovered * load<f32>(extent);
  } else {
    openFrame(map, point);
    laidWidth = load<f32>(point, POINT_WIDTH) * lengthThere(map, point);
    if (projection === PROJECTION_CAMERA) {
      const away = max<f32>(1e-6, frameZ);
      laidU = HALF + frameX / away;
      laidV = HALF - frameY / away;
      laidW = 0;
      const m = map + MAP_PLACE;
      const x = load<f32>(m),
        y = load<f32>(m, 4),
        z = load<f32>(m, 8);
      laidCovered = (laidWidth * sqrt<f32>(x * x + y * y + z * z)) / away;
    } else if (projection === PROJECTION_WRAPPED) {
      const round = sqrt<f32>(frameX * frameX + frameZ * frameZ);
      laidU = HALF + (arc(frameX, frameZ) * round) / load<f32>(extent);
      laidV = HALF - frameY / load<f32>(extent, 4);
      laidW = HALF;
      laidCovered = laidWidth / sqrt<f32>(load<f32>(extent) * load<f32>(extent, 4));
    } else if (projection === PROJECTION_CYLINDRICAL || projection === PROJECTION_SPHERICAL) {
      const round = sqrt<f32>(frameX * frameX + frameZ * frameZ);
      laidU = HALF + arc(frameX, frameZ) * FULL_TURN;
      if (projection === PROJECTION_CYLINDRICAL) {
        laidV = HALF - frameY / load<f32>(extent, 4);
        laidCovered = (laidWidth * FULL_TURN) / max<f32>(1e-6, round);
      } else {
        const far = sqrt<f32>(round * round + frameY * frameY);
        laidV = arcOfCosine(frameY / max<f32>(1e-6, far)) * INVERSE_PI;
        laidCovered = (laidWidth * FULL_TURN) / max<f32>(1e-6, far);
      }
      laidW = HALF + round / load<f32>(extent, 8);
    } else {
      laidU = HALF + frameX / load<f32>(extent);
      laidV = HALF - frameY / load<f32>(extent, 4);
      laidW = HALF + frameZ / load<f32>(extent, 8);
      laidCovered = laidWidth / sqrt<f32>(load<f32>(extent) * load<f32>(extent, 4));
    }
  }
  place(map);
}

/** Lays a map on from one side of a box. @param side 0 along x, 1 along y, 2 along z; @param from on which of both, by its sign */
export function projectFromSide(map: usize, point: usize, side: u32, from: f32): void {
  const extent = map + MAP_EXTENT;
  openFrame(map, point);
  laidWidth = load<f32>(point, POINT_WIDTH) * lengthThere(map, point);
  const s: f32 = from < 0 ? -1 : 1;
  const across: f32 = side === 0 ? -s * frameZ : side === 1 ? frameX : s * frameX;
  const up: f32 = side === 1 ? -s * frameZ : frameY;
  laidU = HALF + across / load<f32>(extent);
  laidV = HALF - up / load<f32>(extent, 4);
  laidW = 0;
  laidCovered = laidWidth / sqrt<f32>(load<f32>(extent) * load<f32>(extent, 4));
  place(map);
}

/** Repeats, turns and moves by the map's matrix. */
function place(map: usize): void {
  const m = map + MAP_MATRIX;
  const u = laidU,
    v = laidV;
  const a = load<f32>(m),
    b = load<f32>(m, 4),
    c = load<f32>(m, 12),
    d = load<f32>(m, 16);
  laidU = a * u + b * v + load<f32>(m, 8);
  laidV = c * u + d * v + load<f32>(m, 20);
  laidCovered *= sqrt<f32>(abs(a * d - b * c));
}
