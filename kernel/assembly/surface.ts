// What a ray finds where it hits a part: place, normals, area density.

import {
  FINISH_MAP_COUNT,
  INSTANCE_FINISH,
  INSTANCE_MESH,
  INSTANCE_SIZE,
  INSTANCE_TO_WORLD,
  MESH_AREA,
  MESH_INDICES,
  MESH_NORMALS,
  MESH_POSITIONS,
  MESH_UVS,
  SCENE_INSTANCES,
} from './layout';
import { instanceMatrices } from './motion';
import { hitInstance, hitTriangle, hitU, hitV } from './traverse';

export let surfaceX: f32 = 0;
export let surfaceY: f32 = 0;
export let surfaceZ: f32 = 0;
/** Unit normal of the triangle, outward by its winding. */
export let flatX: f32 = 0;
export let flatY: f32 = 0;
export let flatZ: f32 = 0;
/** Unit normal blended from the vertices, on the same side as the flat one. */
export let smoothX: f32 = 0;
export let smoothY: f32 = 0;
export let smoothZ: f32 = 0;
/** The place in the part's own space. */
export let objectX: f32 = 0;
export let objectY: f32 = 0;
export let objectZ: f32 = 0;
/** Results of `openTexture`: where the surface is on its pictures, world directions in which u and v grow, and how far a mm goes. */
export let surfaceU: f32 = 0;
export let surfaceV: f32 = 0;
export let tangentX: f32 = 0;
export let tangentY: f32 = 0;
export let tangentZ: f32 = 0;
export let mirrored: bool = false;
export let texturePerLength: f32 = 0;

/** Address of the instance that was hit last. */
export function surfaceInstance(scene: usize): usize {
  return <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>hitInstance * INSTANCE_SIZE;
}

/** Fills the fields above from the last hit of `trace`. */
export function openSurface(scene: usize): void {
  const instance = surfaceInstance(scene);
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>hitTriangle * 12;
  const i0 = <usize>load<u32>(index) * 12,
    i1 = <usize>load<u32>(index, 4) * 12,
    i2 = <usize>load<u32>(index, 8) * 12;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const p0 = positions + i0,
    p1 = positions + i1,
    p2 = positions + i2;
  const b1 = hitU,
    b2 = hitV,
    b0: f32 = 1 - b1 - b2;
  const x0 = load<f32>(p0),
    y0 = load<f32>(p0, 4),
    z0 = load<f32>(p0, 8);
  const e1x = load<f32>(p1) - x0,
    e1y = load<f32>(p1, 4) - y0,
    e1z = load<f32>(p1, 8) - z0;
  const e2x = load<f32>(p2) - x0,
    e2y = load<f32>(p2, 4) - y0,
    e2z = load<f32>(p2, 8) - z0;
  const x = x0 + b1 * e1x + b2 * e2x,
    y = y0 + b1 * e1y + b2 * e2y,
    z = z0 + b1 * e1z + b2 * e2z;
  const matrices = instanceMatrices(scene, instance);
  const m = matrices + INSTANCE_TO_WORLD;
  surfaceX = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12);
  surfaceY = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28);
  surfaceZ = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44);
  objectX = x;
  objectY = y;
  objectZ = z;
  const cx = e1y * e2z - e1z * e2y,
    cy = e1z * e2x - e1x * e2z,
    cz = e1x * e2y - e1y * e2x;
  toWorldNormal(matrices, cx, cy, cz);
  flatX = normalX;
  flatY = normalY;
  flatZ = normalZ;
  const normals = <usize>load<u32>(mesh, MESH_NORMALS);
  const n0 = normals + i0,
    n1 = normals + i1,
    n2 = normals + i2;
  toWorldNormal(
    matrices,
    b0 * load<f32>(n0) + b1 * load<f32>(n1) + b2 * load<f32>(n2),
    b0 * load<f32>(n0, 4) + b1 * load<f32>(n1, 4) + b2 * load<f32>(n2, 4),
    b0 * load<f32>(n0, 8) + b1 * load<f32>(n1, 8) + b2 * load<f32>(n2, 8),
  );
  const side: f32 = normalX * flatX + normalY * flatY + normalZ * flatZ;
  if (abs(side) < 1e-3) {
    smoothX = flatX;
    smoothY = flatY;
    smoothZ = flatZ;
  } else {
    const s: f32 = side < 0 ? -1 : 1;
    smoothX = normalX * s;
    smoothY = normalY * s;
    smoothZ = normalZ * s;
  }
}

/** Unit roundoff of 32-bit numbers. */
const ROUNDOFF: f32 = 5.9604645e-8;

/**
 * How far off the plane of a triangle, in mm, rays must begin or end so that rounding cannot bring them to its other side. To where
 * the place was found from the corners and brought to the world (first term) comes what is lost when a ray is taken back into the
 * part's own space (second) and when the triangle is moved to the ray and sheared (third). Each operation loses half a unit in the last
 * place of what it handles, so sums of absolute values bound them all (Pharr, Jakob and Humphreys, Physically Based Rendering, 6.8;
 * Wächter and Binder, A Fast and Robust Method for Avoiding Self-Intersection, 2019); docs/decisions/ray-offsets.md.
 */
export function liftOffPlane(
  matrices: usize,
  p0: usize,
  p1: usize,
  p2: usize,
  x: f32,
  y: f32,
  z: f32,
  nx: f32,
  ny: f32,
  nz: f32,
): f32 {
  const x0 = load<f32>(p0),
    y0 = load<f32>(p0, 4),
    z0 = load<f32>(p0, 8);
  const ax = abs(load<f32>(p1) - x0) + abs(load<f32>(p2) - x0);
  const ay = abs(load<f32>(p1, 4) - y0) + abs(load<f32>(p2, 4) - y0);
  const az = abs(load<f32>(p1, 8) - z0) + abs(load<f32>(p2, 8) - z0);
  const cx = abs(x0) + ax,
    cy = abs(y0) + ay,
    cz = abs(z0) + az;
  const wx = abs(x),
    wy = abs(y),
    wz = abs(z);
  // The same place as a ray's beginning in the part's own space.
  const bx =
    abs(load<f32>(matrices)) * wx +
    abs(load<f32>(matrices, 4)) * wy +
    abs(load<f32>(matrices, 8)) * wz +
    abs(load<f32>(matrices, 12));
  const by =
    abs(load<f32>(matrices, 16)) * wx +
    abs(load<f32>(matrices, 20)) * wy +
    abs(load<f32>(matrices, 24)) * wz +
    abs(load<f32>(matrices, 28));
  const bz =
    abs(load<f32>(matrices, 32)) * wx +
    abs(load<f32>(matrices, 36)) * wy +
    abs(load<f32>(matrices, 40)) * wz +
    abs(load<f32>(matrices, 44));
  const ox = cx * 10 + bx * 12,
    oy = cy * 10 + by * 12,
    oz = cz * 10 + bz * 12;
  const m = matrices + INSTANCE_TO_WORLD;
  const m0 = abs(load<f32>(m)),
    m1 = abs(load<f32>(m, 4)),
    m2 = abs(load<f32>(m, 8));
  const m4 = abs(load<f32>(m, 16)),
    m5 = abs(load<f32>(m, 20)),
    m6 = abs(load<f32>(m, 24));
  const m8 = abs(load<f32>(m, 32)),
    m9 = abs(load<f32>(m, 36)),
    m10 = abs(load<f32>(m, 40));
  const extent = max(m0 * ax + m1 * ay + m2 * az, max(m4 * ax + m5 * ay + m6 * az, m8 * ax + m9 * ay + m10 * az));
  return (
    ROUNDOFF *
    (abs(nx) * (m0 * ox + m1 * oy + m2 * oz + abs(load<f32>(m, 12)) * 10) +
      abs(ny) * (m4 * ox + m5 * oy + m6 * oz + abs(load<f32>(m, 28)) * 10) +
      abs(nz) * (m8 * ox + m9 * oy + m10 * oz + abs(load<f32>(m, 44)) * 10) +
      extent * 8)
  );
}

/** What `liftOffPlane` gives for a ray that ends here but began elsewhere, on top: its own rounding grows with its way. */
export function liftOverWay(x: f32, y: f32, z: f32, distance: f32): f32 {
  return ROUNDOFF * 12 * (max(abs(x), max(abs(y), abs(z))) + distance);
}

/** `liftOffPlane` where the last hit is, after `openSurface`. */
export function surfaceLift(scene: usize): f32 {
  const instance = surfaceInstance(scene);
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>hitTriangle * 12;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  return liftOffPlane(
    instanceMatrices(scene, instance),
    positions + <usize>load<u32>(index) * 12,
    positions + <usize>load<u32>(index, 4) * 12,
    positions + <usize>load<u32>(index, 8) * 12,
    surfaceX,
    surfaceY,
    surfaceZ,
    flatX,
    flatY,
    flatZ,
  );
}

/** World area that stands for the whole surface of the part hit last, where densities over area are taken on that triangle. */
export function surfaceArea(scene: usize): f32 {
  const instance = surfaceInstance(scene);
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>hitTriangle * 12;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const p0 = positions + <usize>load<u32>(index) * 12,
    p1 = positions + <usize>load<u32>(index, 4) * 12,
    p2 = positions + <usize>load<u32>(index, 8) * 12;
  const e1x = load<f32>(p1) - load<f32>(p0),
    e1y = load<f32>(p1, 4) - load<f32>(p0, 4),
    e1z = load<f32>(p1, 8) - load<f32>(p0, 8);
  const e2x = load<f32>(p2) - load<f32>(p0),
    e2y = load<f32>(p2, 4) - load<f32>(p0, 4),
    e2z = load<f32>(p2, 8) - load<f32>(p0, 8);
  const cx = e1y * e2z - e1z * e2y,
    cy = e1z * e2x - e1x * e2z,
    cz = e1x * e2y - e1y * e2x;
  const own = sqrt<f32>(cx * cx + cy * cy + cz * cz);
  if (!(own > 0)) return 0;
  const m = instanceMatrices(scene, instance) + INSTANCE_TO_WORLD;
  const a1x = load<f32>(m) * e1x + load<f32>(m, 4) * e1y + load<f32>(m, 8) * e1z;
  const a1y = load<f32>(m, 16) * e1x + load<f32>(m, 20) * e1y + load<f32>(m, 24) * e1z;
  const a1z = load<f32>(m, 32) * e1x + load<f32>(m, 36) * e1y + load<f32>(m, 40) * e1z;
  const a2x = load<f32>(m) * e2x + load<f32>(m, 4) * e2y + load<f32>(m, 8) * e2z;
  const a2y = load<f32>(m, 16) * e2x + load<f32>(m, 20) * e2y + load<f32>(m, 24) * e2z;
  const a2z = load<f32>(m, 32) * e2x + load<f32>(m, 36) * e2y + load<f32>(m, 40) * e2z;
  const wx = a1y * a2z - a1z * a2y,
    wy = a1z * a2x - a1x * a2z,
    wz = a1x * a2y - a1y * a2x;
  return (sqrt<f32>(wx * wx + wy * wy + wz * wz) / own) * load<f32>(mesh, MESH_AREA);
}

let normalX: f32 = 0;
let normalY: f32 = 0;
let normalZ: f32 = 0;

/** Normals go to the world by the transpose of the way back, so that they stay upright under any scale. */
function toWorldNormal(matrices: usize, x: f32, y: f32, z: f32): void {
  const nx = load<f32>(matrices) * x + load<f32>(matrices, 16) * y + load<f32>(matrices, 32) * z;
  const ny = load<f32>(matrices, 4) * x + load<f32>(matrices, 20) * y + load<f32>(matrices, 36) * z;
  const nz = load<f32>(matrices, 8) * x + load<f32>(matrices, 24) * y + load<f32>(matrices, 40) * z;
  const inv = <f32>1 / sqrt<f32>(max<f32>(1e-30, nx * nx + ny * ny + nz * nz));
  normalX = nx * inv;
  normalY = ny * inv;
  normalZ = nz * inv;
}

const PICTURES_PER_MILLIMETRE: f32 = 0.01;
let sideX: f32 = 0;
let sideZ: f32 = 0;

/**
 * Coordinates of a part that brings none: pictures of 100 mm laid on from the six sides of its own space, upright and unmirrored,
 * each triangle from the side it faces most. u grows along (sideX, 0, sideZ).
 */
function projectFromSides(mesh: usize, triangle: u32, x: f32, y: f32, z: f32): void {
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>triangle * 12;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const p0 = positions + <usize>load<u32>(index) * 12,
    p1 = positions + <usize>load<u32>(index, 4) * 12,
    p2 = positions + <usize>load<u32>(index, 8) * 12;
  const ax = load<f32>(p1) - load<f32>(p0),
    ay = load<f32>(p1, 4) - load<f32>(p0, 4),
    az = load<f32>(p1, 8) - load<f32>(p0, 8);
  const bx = load<f32>(p2) - load<f32>(p0),
    by = load<f32>(p2, 4) - load<f32>(p0, 4),
    bz = load<f32>(p2, 8) - load<f32>(p0, 8);
  const nx = ay * bz - az * by,
    ny = az * bx - ax * bz,
    nz = ax * by - ay * bx;
  sideX = 1;
  sideZ = 0;
  let down = -y;
  if (abs(ny) >= abs(nx) && abs(ny) >= abs(nz)) down = ny < 0 ? -z : z;
  else if (abs(nx) > abs(nz)) {
    sideX = 0;
    sideZ = nx < 0 ? 1 : -1;
  } else sideX = nz < 0 ? -1 : 1;
  surfaceU = <f32>0.5 + (sideX * x + sideZ * z) * PICTURES_PER_MILLIMETRE;
  surfaceV = <f32>0.5 + down * PICTURES_PER_MILLIMETRE;
}

/** Coordinates and tangent of the last hit, after `openSurface`. Without coordinates the tangent goes round the part's own y axis. */
export function openTexture(scene: usize): void {
  const instance = surfaceInstance(scene);
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const m = instanceMatrices(scene, instance) + INSTANCE_TO_WORLD;
  const uvs = <usize>load<u32>(mesh, MESH_UVS);
  let tx: f32 = 0,
    ty: f32 = 0,
    tz: f32 = 0;
  surfaceU = 0;
  surfaceV = 0;
  texturePerLength = 0;
  mirrored = false;
  if (uvs !== 0) {
    const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>hitTriangle * 12;
    const i0 = <usize>load<u32>(index),
      i1 = <usize>load<u32>(index, 4),
      i2 = <usize>load<u32>(index, 8);
    const t0 = uvs + i0 * 8,
      t1 = uvs + i1 * 8,
      t2 = uvs + i2 * 8;
    const u0 = load<f32>(t0),
      v0 = load<f32>(t0, 4);
    const u1 = load<f32>(t1) - u0,
      v1 = load<f32>(t1, 4) - v0,
      u2 = load<f32>(t2) - u0,
      v2 = load<f32>(t2, 4) - v0;
    surfaceU = u0 + hitU * u1 + hitV * u2;
    surfaceV = v0 + hitU * v1 + hitV * v2;
    const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
    const p0 = positions + i0 * 12,
      p1 = positions + i1 * 12,
      p2 = positions + i2 * 12;
    const e1x = load<f32>(p1) - load<f32>(p0),
      e1y = load<f32>(p1, 4) - load<f32>(p0, 4),
      e1z = load<f32>(p1, 8) - load<f32>(p0, 8);
    const e2x = load<f32>(p2) - load<f32>(p0),
      e2y = load<f32>(p2, 4) - load<f32>(p0, 4),
      e2z = load<f32>(p2, 8) - load<f32>(p0, 8);
    const det = u1 * v2 - u2 * v1;
    mirrored = det < 0;
    const s: f32 = mirrored ? -1 : 1;
    tx = s * (v2 * e1x - v1 * e2x);
    ty = s * (v2 * e1y - v1 * e2y);
    tz = s * (v2 * e1z - v1 * e2z);
    const cx = e1y * e2z - e1z * e2y,
      cy = e1z * e2x - e1x * e2z,
      cz = e1x * e2y - e1y * e2x;
    const area = sqrt<f32>(cx * cx + cy * cy + cz * cz);
    texturePerLength = area > 0 ? sqrt<f32>(abs(det) / area) : 0;
  } else if (load<u32>(<usize>load<u32>(instance, INSTANCE_FINISH), FINISH_MAP_COUNT) !== 0) {
    projectFromSides(mesh, hitTriangle, objectX, objectY, objectZ);
    tx = sideX;
    tz = sideZ;
    mirrored = true;
    texturePerLength = PICTURES_PER_MILLIMETRE;
  }
  if (!(tx * tx + ty * ty + tz * tz > 1e-24)) {
    tx = objectZ;
    tz = -objectX;
    ty = 0;
  }
  tangentX = load<f32>(m) * tx + load<f32>(m, 4) * ty + load<f32>(m, 8) * tz;
  tangentY = load<f32>(m, 16) * tx + load<f32>(m, 20) * ty + load<f32>(m, 24) * tz;
  tangentZ = load<f32>(m, 32) * tx + load<f32>(m, 36) * ty + load<f32>(m, 40) * tz;
}
