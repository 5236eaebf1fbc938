// What a ray finds where it hits a part: place, normals, area density.

import {
  INSTANCE_MESH,
  INSTANCE_SIZE,
  INSTANCE_TO_WORLD,
  MESH_AREA,
  MESH_INDICES,
  MESH_NORMALS,
  MESH_POSITIONS,
  SCENE_INSTANCES,
} from './layout';
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
/** World area that stands for one part's whole surface when densities over area are taken here. */
export let surfaceArea: f32 = 0;

/** Address of the instance that was hit last. */
export function surfaceInstance(scene: usize): usize {
  return <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>hitInstance * INSTANCE_SIZE;
}

/** Fills the fields above from the last hit of `trace`. */
export function openSurface(scene: usize): void {
  const instance = surfaceInstance(scene);
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>hitTriangle * 12;
  const i0 = <usize>load<u32>(index) * 12, i1 = <usize>load<u32>(index, 4) * 12, i2 = <usize>load<u32>(index, 8) * 12;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const p0 = positions + i0, p1 = positions + i1, p2 = positions + i2;
  const b1 = hitU, b2 = hitV, b0: f32 = 1 - b1 - b2;
  const x0 = load<f32>(p0), y0 = load<f32>(p0, 4), z0 = load<f32>(p0, 8);
  const e1x = load<f32>(p1) - x0, e1y = load<f32>(p1, 4) - y0, e1z = load<f32>(p1, 8) - z0;
  const e2x = load<f32>(p2) - x0, e2y = load<f32>(p2, 4) - y0, e2z = load<f32>(p2, 8) - z0;
  const x = x0 + b1 * e1x + b2 * e2x, y = y0 + b1 * e1y + b2 * e2y, z = z0 + b1 * e1z + b2 * e2z;
  const m = instance + INSTANCE_TO_WORLD;
  surfaceX = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12);
  surfaceY = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28);
  surfaceZ = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44);
  const cx = e1y * e2z - e1z * e2y, cy = e1z * e2x - e1x * e2z, cz = e1x * e2y - e1y * e2x;
  toWorldNormal(instance, cx, cy, cz);
  flatX = normalX;
  flatY = normalY;
  flatZ = normalZ;
  const normals = <usize>load<u32>(mesh, MESH_NORMALS);
  const n0 = normals + i0, n1 = normals + i1, n2 = normals + i2;
  toWorldNormal(
    instance,
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
  // World area of the triangle over its share of the part's surface.
  const a1x = load<f32>(m) * e1x + load<f32>(m, 4) * e1y + load<f32>(m, 8) * e1z;
  const a1y = load<f32>(m, 16) * e1x + load<f32>(m, 20) * e1y + load<f32>(m, 24) * e1z;
  const a1z = load<f32>(m, 32) * e1x + load<f32>(m, 36) * e1y + load<f32>(m, 40) * e1z;
  const a2x = load<f32>(m) * e2x + load<f32>(m, 4) * e2y + load<f32>(m, 8) * e2z;
  const a2y = load<f32>(m, 16) * e2x + load<f32>(m, 20) * e2y + load<f32>(m, 24) * e2z;
  const a2z = load<f32>(m, 32) * e2x + load<f32>(m, 36) * e2y + load<f32>(m, 40) * e2z;
  const wx = a1y * a2z - a1z * a2y, wy = a1z * a2x - a1x * a2z, wz = a1x * a2y - a1y * a2x;
  const own = sqrt<f32>(cx * cx + cy * cy + cz * cz);
  surfaceArea = own > 0 ? (sqrt<f32>(wx * wx + wy * wy + wz * wz) / own) * load<f32>(mesh, MESH_AREA) : 0;
}

let normalX: f32 = 0;
let normalY: f32 = 0;
let normalZ: f32 = 0;

/** Normals go to the world by the transpose of the way back, so that they stay upright under any scale. */
function toWorldNormal(instance: usize, x: f32, y: f32, z: f32): void {
  const nx = load<f32>(instance) * x + load<f32>(instance, 16) * y + load<f32>(instance, 32) * z;
  const ny = load<f32>(instance, 4) * x + load<f32>(instance, 20) * y + load<f32>(instance, 36) * z;
  const nz = load<f32>(instance, 8) * x + load<f32>(instance, 24) * y + load<f32>(instance, 40) * z;
  const inv = <f32>1 / sqrt<f32>(max<f32>(1e-30, nx * nx + ny * ny + nz * nz));
  normalX = nx * inv;
  normalY = ny * inv;
  normalZ = nz * inv;
}
