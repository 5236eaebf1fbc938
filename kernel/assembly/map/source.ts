// What the source of a map gives at a shading point. Written by `readSource`.

import { arc } from '../angle';
import {
  MAP_DATA,
  MAP_EXTENT,
  MAP_FLAGS,
  MAP_KIND,
  MAP_ONE_SIDED,
  MAP_PARAMETERS,
  MAP_PROJECTION,
  MAP_SOFTNESS,
  MAP_TILING,
  POINT_FACING,
  POINT_MESH,
  POINT_OBJECT,
  POINT_PART,
  POINT_WIDTH,
  PROJECTION_BOX,
  PROJECTION_CYLINDRICAL,
  PROJECTION_PLANAR,
  PROJECTION_SPHERICAL,
  PROJECTION_WRAPPED,
  SOURCE_FACING,
  SOURCE_GRADIENT,
  SOURCE_NOISE,
  SOURCE_PART,
  SOURCE_PICTURE,
  SOURCE_WEAR,
  TILING_MIRROR,
  TILING_ONCE,
  TILING_REPEAT,
} from '../layout';
import { lookUp, texelA, texelB, texelG, texelR } from '../texture';
import { latticeHash, noiseAt, unitOf } from './noise';
import {
  frameX,
  frameY,
  frameZ,
  laidCovered,
  laidU,
  laidV,
  laidW,
  laidWidth,
  lengthThere,
  project,
  projectFromSide,
} from './project';
import { openSide, sideX, sideY, sideZ } from './side';
import { wornAt } from './wear';

const ONE: f32 = 1;
const HALF: f32 = 0.5;
const FULL_TURN: f32 = 0.15915494309;

export let sourceR: f32 = 0;
export let sourceG: f32 = 0;
export let sourceB: f32 = 0;
export let sourceA: f32 = 0;

function parameter(map: usize, k: usize): f32 {
  return load<f32>(map + MAP_PARAMETERS + (k << 2));
}

/** Reads the source of a map at a shading point, by its projection. */
export function readSource(map: usize, point: usize): void {
  const kind = load<u32>(map, MAP_KIND);
  if (kind === SOURCE_WEAR) {
    grey(wear(map, point));
    return;
  }
  if (kind === SOURCE_FACING) {
    grey(load<f32>(point, POINT_FACING));
    return;
  }
  if (kind === SOURCE_PART) {
    const part = load<u32>(point, POINT_PART);
    grey(unitOf(latticeHash(<i32>part, 0, 0, <u32>parameter(map, 0))));
    return;
  }
  const projection = load<u32>(map, MAP_PROJECTION);
  if (projection === PROJECTION_BOX) {
    readBox(map, point, kind);
    return;
  }
  project(map, point, projection);
  if (isAway(map, point, projection)) {
    grey(0);
    sourceA = 0;
    return;
  }
  readLaid(map, kind);
}

/** Whether a map that is laid on one side, or reaches only so deep, leaves the surface out. */
function isAway(map: usize, point: usize, projection: u32): bool {
  if (projection === PROJECTION_PLANAR && load<u32>(map, MAP_TILING) === TILING_ONCE && abs(laidW - HALF) > HALF)
    return true;
  if ((load<u32>(map, MAP_FLAGS) & MAP_ONE_SIDED) === 0) return false;
  openSide(map, point);
  if (projection === PROJECTION_PLANAR) return sideZ <= 0;
  if (projection === PROJECTION_CYLINDRICAL || projection === PROJECTION_WRAPPED)
    return sideX * frameX + sideZ * frameZ <= 0;
  return projection === PROJECTION_SPHERICAL && sideX * frameX + sideY * frameY + sideZ * frameZ <= 0;
}

function grey(value: f32): void {
  sourceR = value;
  sourceG = value;
  sourceB = value;
  sourceA = 1;
}

/** From the sides of a box, blended where the surface turns from one to the next. */
function readBox(map: usize, point: usize, kind: u32): void {
  openSide(map, point);
  const x = sideX,
    y = sideY,
    z = sideZ;
  const most = max(abs(x), max(abs(y), abs(z)));
  const soft = max<f32>(1e-3, load<f32>(map, MAP_SOFTNESS));
  const wx = max<f32>(0, ONE - (most - abs(x)) / soft),
    wy = max<f32>(0, ONE - (most - abs(y)) / soft),
    wz = max<f32>(0, ONE - (most - abs(z)) / soft);
  const all = wx + wy + wz;
  let r: f32 = 0,
    g: f32 = 0,
    b: f32 = 0,
    a: f32 = 0;
  for (let side: u32 = 0; side < 3; side++) {
    const w: f32 = (side === 0 ? wx : side === 1 ? wy : wz) / all;
    if (w <= 0) continue;
    projectFromSide(map, point, side, side === 0 ? x : side === 1 ? y : z);
    readLaid(map, kind);
    r += w * sourceR;
    g += w * sourceG;
    b += w * sourceB;
    a += w * sourceA;
  }
  sourceR = r;
  sourceG = g;
  sourceB = b;
  sourceA = a;
}

/** Folds a place into the first picture; -1 where there is nothing. */
function tiled(x: f32, tiling: u32): f32 {
  if (tiling === TILING_ONCE) return x < 0 || x > 1 ? -1 : x;
  if (tiling === TILING_MIRROR) {
    const t = x - <f32>2 * floor(x * HALF);
    return t > 1 ? <f32>2 - t : t;
  }
  if (tiling === TILING_REPEAT) return x - floor(x);
  return min<f32>(1, max<f32>(0, x));
}

/** Reads where `project` has laid the map. */
function readLaid(map: usize, kind: u32): void {
  const tiling = load<u32>(map, MAP_TILING);
  if (kind === SOURCE_PICTURE) {
    let u = laidU,
      v = laidV;
    if (tiling !== TILING_REPEAT) {
      u = tiled(u, tiling);
      v = tiled(v, tiling);
      if (u < 0 || v < 0) {
        grey(0);
        sourceA = 0;
        return;
      }
    }
    lookUp(<usize>load<u32>(map, MAP_DATA), u, v, laidCovered);
    sourceR = texelR;
    sourceG = texelG;
    sourceB = texelB;
    sourceA = texelA;
    return;
  }
  if (kind === SOURCE_GRADIENT) {
    const t = tiled(gradientAt(<u32>parameter(map, 0)), tiling);
    grey(max<f32>(0, t));
    if (t < 0) sourceA = 0;
    return;
  }
  // A kind that is unknown ends the render: a wrong picture would be believed.
  if (kind !== SOURCE_NOISE) unreachable();
  const e = map + MAP_EXTENT;
  const sx = parameter(map, 1),
    sy = parameter(map, 2),
    sz = parameter(map, 3);
  grey(
    noiseAt(
      <u32>parameter(map, 0),
      (laidU - HALF) * load<f32>(e) * sx,
      (HALF - laidV) * load<f32>(e, 4) * sy,
      (laidW - HALF) * load<f32>(e, 8) * sz,
      laidWidth * max(sx, max(sy, sz)),
      <u32>parameter(map, 4),
      parameter(map, 5),
      <u32>parameter(map, 6),
    ),
  );
}

/** @param shape linear, radial, spherical, angular */
function gradientAt(shape: u32): f32 {
  if (shape === 0) return laidU;
  const x = <f32>2 * (laidU - HALF),
    y = <f32>2 * (HALF - laidV),
    z = <f32>2 * (laidW - HALF);
  if (shape === 1) return sqrt<f32>(x * x + y * y);
  if (shape === 2) return sqrt<f32>(x * x + y * y + z * z);
  return HALF + arc(y, x) * FULL_TURN;
}

function wear(map: usize, point: usize): f32 {
  const o = point + POINT_OBJECT;
  const x = load<f32>(o),
    y = load<f32>(o, 4),
    z = load<f32>(o, 8);
  const worn = wornAt(<usize>load<u32>(point, POINT_MESH), x, y, z, parameter(map, 1), <u32>parameter(map, 0));
  const breakup = parameter(map, 2);
  if (worn <= 0 || breakup <= 0) return worn;
  const fine = parameter(map, 3);
  const bite = noiseAt(1, x * fine, y * fine, z * fine, load<f32>(point, POINT_WIDTH) * lengthThere(map, point) * fine, 3, 0.6, <u32>parameter(map, 4)); // prettier-ignore
  return min<f32>(1, max<f32>(0, worn * (ONE + breakup) - breakup * <f32>1.4 * bite));
}
