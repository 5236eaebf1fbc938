// Ambient occlusion, as the layer keeps it.

import { turn, turnCosine, turnSine } from './angle';
import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasis } from './basis';
import { SCENE_OCCLUSION } from './layout';
import { draw2, drawX, drawY } from './sampler';
import { hideParts, trace } from './traverse';

const ONE: f32 = 1;

/** 1 where a direction chosen by cosine meets nothing near, else 0. */
export function openness(scene: usize, x: f32, y: f32, z: f32, nx: f32, ny: f32, nz: f32): f32 {
  draw2();
  makeBasis(nx, ny, nz);
  turn(drawY);
  const r = sqrt<f32>(drawX);
  const a = r * turnCosine,
    b = r * turnSine,
    c = sqrt<f32>(max<f32>(0, ONE - drawX));
  hideParts(0);
  const met = trace(
    scene,
    x,
    y,
    z,
    a * basisXx + b * basisYx + c * nx,
    a * basisXy + b * basisYy + c * ny,
    a * basisXz + b * basisYz + c * nz,
    0,
    load<f32>(scene, SCENE_OCCLUSION),
    true,
  );
  return met ? 0 : 1;
}
