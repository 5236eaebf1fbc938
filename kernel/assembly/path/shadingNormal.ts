// The normal that scattering goes by: blended from the vertices, and tilted by a map. Written by `openShadingNormal`.

import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasisAlong } from '../basis';
import { FINISH_NORMAL, FINISH_RELIEF, FINISH_SLOPE } from '../layout';
import { flatX, flatY, flatZ, mirrored, smoothX, smoothY, smoothZ, tangentX, tangentY, tangentZ } from '../surface';

const ONE: f32 = 1;

/** Unit, on the side of the surface that the ray came from. */
export let shadingX: f32 = 0;
export let shadingY: f32 = 0;
export let shadingZ: f32 = 0;

/** @param flip -1 where the ray meets the surface from within, else 1 */
export function openShadingNormal(finish: usize, mapped: bool, flip: f32, dx: f32, dy: f32, dz: f32): void {
  shadingX = smoothX * flip;
  shadingY = smoothY * flip;
  shadingZ = smoothZ * flip;
  if (-(shadingX * dx + shadingY * dy + shadingZ * dz) < 0.01) {
    // Seen from behind its own blended normal: near a silhouette the flat one is the truth.
    shadingX = flatX * flip;
    shadingY = flatY * flip;
    shadingZ = flatZ * flip;
  }
  if (!mapped) return;
  slope(finish, flip, dx, dy, dz);
  const bx = load<f32>(finish, FINISH_NORMAL),
    tilt = load<f32>(finish, FINISH_NORMAL + 4);
  if (!(bx * bx + tilt * tilt > 0)) return;
  const by = tilt * (mirrored ? <f32>-1 : <f32>1); // mirrored: v against n × u
  const bz = sqrt<f32>(max<f32>(0.01, ONE - bx * bx - by * by));
  makeBasisAlong(shadingX, shadingY, shadingZ, tangentX, tangentY, tangentZ);
  const mx = bx * basisXx + by * basisYx + bz * shadingX,
    my = bx * basisXy + by * basisYy + bz * shadingY,
    mz = bx * basisXz + by * basisYz + bz * shadingZ;
  const n = ONE / sqrt<f32>(mx * mx + my * my + mz * mz);
  if (!(-(mx * dx + my * dy + mz * dz) * n > 0.01)) return;
  shadingX = mx * n;
  shadingY = my * n;
  shadingZ = mz * n;
}

/** Turns the normal by the slope of a relief. */
function slope(finish: usize, flip: f32, dx: f32, dy: f32, dz: f32): void {
  if (load<u32>(finish, FINISH_RELIEF) === 0) return;
  const x = shadingX - flip * load<f32>(finish, FINISH_SLOPE),
    y = shadingY - flip * load<f32>(finish, FINISH_SLOPE + 4),
    z = shadingZ - flip * load<f32>(finish, FINISH_SLOPE + 8);
  const n = ONE / sqrt<f32>(x * x + y * y + z * z);
  if (!(-(x * dx + y * dy + z * dz) * n > 0.01)) return;
  shadingX = x * n;
  shadingY = y * n;
  shadingZ = z * n;
}
