// Which way the surface faces in the frame that a map is laid on in. Written by `openSide`.

import {
  MAP_FLAGS,
  MAP_IN_WORLD,
  MAP_PLACE,
  POINT_ACROSS,
  POINT_ACROSS_OBJECT,
  POINT_NORMAL,
  POINT_TANGENT,
  POINT_TANGENT_OBJECT,
} from '../layout';

/** Not of unit length. */
export let sideX: f32 = 0;
export let sideY: f32 = 0;
export let sideZ: f32 = 0;

export function openSide(map: usize, point: usize): void {
  const world = (load<u32>(map, MAP_FLAGS) & MAP_IN_WORLD) !== 0;
  const t = point + (world ? POINT_TANGENT : POINT_TANGENT_OBJECT),
    s = point + (world ? POINT_ACROSS : POINT_ACROSS_OBJECT),
    m = map + MAP_PLACE;
  const ux = load<f32>(t),
    uy = load<f32>(t, 4),
    uz = load<f32>(t, 8);
  const vx = load<f32>(s),
    vy = load<f32>(s, 4),
    vz = load<f32>(s, 8);
  const cx = uy * vz - uz * vy,
    cy = uz * vx - ux * vz,
    cz = ux * vy - uy * vx;
  const long = sqrt<f32>(max<f32>(1e-30, cx * cx + cy * cy + cz * cz));
  // The surface looks the way its outward normal does, whichever way its coordinates run.
  const n = point + POINT_NORMAL;
  const out: f32 = outward(point, n) < 0 ? -1 : 1;
  const nx = (out * cx) / long,
    ny = (out * cy) / long,
    nz = (out * cz) / long;
  sideX = load<f32>(m) * nx + load<f32>(m, 4) * ny + load<f32>(m, 8) * nz;
  sideY = load<f32>(m, 16) * nx + load<f32>(m, 20) * ny + load<f32>(m, 24) * nz;
  sideZ = load<f32>(m, 32) * nx + load<f32>(m, 36) * ny + load<f32>(m, 40) * nz;
}

/** Whether tangent and across make a right hand with the normal. */
function outward(point: usize, n: usize): f32 {
  const t = point + POINT_TANGENT,
    s = point + POINT_ACROSS;
  return (
    load<f32>(n) * (load<f32>(t, 4) * load<f32>(s, 8) - load<f32>(t, 8) * load<f32>(s, 4)) +
    load<f32>(n, 4) * (load<f32>(t, 8) * load<f32>(s) - load<f32>(t) * load<f32>(s, 8)) +
    load<f32>(n, 8) * (load<f32>(t) * load<f32>(s, 4) - load<f32>(t, 4) * load<f32>(s))
  );
}
