// The way out of a surface for light that was scattered below it. `exitX`, Y, Z are written by `leaveSurface`.

import { turn, turnCosine, turnSine } from '../angle';
import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasis } from '../basis';
import { evaluateExit, scatterB, scatterG, scatterPdf, scatterR } from '../finish/evaluate';
import { openFinish } from '../finish/opened';
import { lightX, lightY, lightZ, openPlace, sampleLight } from '../light';
import { draw1, draw2, drawX, drawY } from '../sampler';
import { disturbed, settleFinish } from '../shadow';
import { carry, nanometres } from './carried';
import { addSampled, byChance, setVertex } from './vertex';

const ONE: f32 = 1;

/** Direction in which the path goes on. */
export let exitX: f32 = 0;
export let exitY: f32 = 0;
export let exitZ: f32 = 0;

/**
 * Samples a light for a place whose outer side glows evenly with what comes from below, and chooses the direction that goes on.
 * @param finish with its maps @param nx outward normal @param lift off the surface, in mm
 */
export function leaveSurface(
  scene: usize,
  finish: usize,
  px: f32,
  py: f32,
  pz: f32,
  nx: f32,
  ny: f32,
  nz: f32,
  lift: f32,
): void {
  openFinish(finish, 0, 0, 1, false, 1, nanometres);
  openPlace(scene, px, py, pz, nx, ny, nz);
  settleFinish();
  if (!byChance && sampleLight(scene, draw1())) {
    const cosine = lightX * nx + lightY * ny + lightZ * nz;
    if (cosine > 0) {
      evaluateExit(cosine);
      addSampled(scene, px, py, pz, nx, ny, nz, lift, scatterPdf, false);
    }
  }
  if (disturbed) openFinish(finish, 0, 0, 1, false, 1, nanometres);
  draw2();
  makeBasis(nx, ny, nz);
  turn(drawY);
  const r = sqrt<f32>(drawX);
  const x = r * turnCosine,
    y = r * turnSine,
    z = sqrt<f32>(max<f32>(1e-6, ONE - drawX));
  evaluateExit(z);
  carry(scatterR / scatterPdf, scatterG / scatterPdf, scatterB / scatterPdf);
  exitX = x * basisXx + y * basisYx + z * nx;
  exitY = x * basisXy + y * basisYy + z * ny;
  exitZ = x * basisXz + y * basisYz + z * nz;
  setVertex(px, py, pz, nx, ny, nz, scatterPdf);
}
