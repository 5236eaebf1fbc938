// Light that space itself scatters towards the camera: from lamps within lit matter, and along a ray through fog.

import { arc } from '../angle';
import { evaluatePhase } from '../finish/evaluate';
import { LIGHT_POSITION, LIGHT_SIZE, SCENE_LIGHTS, SCENE_LOCAL_LIGHTS } from '../layout';
import { lightX, lightY, lightZ, openPlace, pickedLight, pickLightForRay, sampleChosen, sampleLight } from '../light';
import {
  extinctionB,
  extinctionG,
  extinctionR,
  mediumG,
  passB,
  passG,
  passR,
  scatteringB,
  scatteringG,
  scatteringR,
  transmit,
} from '../media';
import { phase } from '../medium';
import { draw1, draw2, drawX } from '../sampler';
import { addSampled } from './vertex';

const ONE: f32 = 1;

/** Light that a vertex inside lit matter scatters, from a lamp in there. */
export function lightInMedium(scene: usize, px: f32, py: f32, pz: f32, dx: f32, dy: f32, dz: f32, g: f32): void {
  openPlace(scene, px, py, pz, 0, 0, 0);
  if (!sampleLight(scene, draw1())) return;
  const value = phase(lightX * dx + lightY * dy + lightZ * dz, g);
  evaluatePhase(value, value, value);
  addSampled(scene, px, py, pz, 0, 0, 0, 0, value, false);
}

/** Light that fog scatters towards the ray's beginning, along the whole ray, from one light. */
export function fogLight(scene: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, end: f32): void {
  const mean = max<f32>(1e-9, (extinctionR + extinctionG + extinctionB) / 3);
  const chance = pickLightForRay(scene, ox, oy, oz, dx, dy, dz, min(end, ONE / mean));
  draw2();
  const u = drawX;
  if (!(chance > 0)) return;
  let t: f32 = 0,
    pdf: f32 = 0;
  if (pickedLight < load<u32>(scene, SCENE_LOCAL_LIGHTS)) {
    // Evenly in angle as the lamp sees the ray (Kulla and Fajardo, Importance Sampling Techniques for Path Tracing in
    // Participating Media, 2012).
    const light = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>pickedLight * LIGHT_SIZE;
    const cx = load<f32>(light, LIGHT_POSITION) - ox,
      cy = load<f32>(light, LIGHT_POSITION + 4) - oy,
      cz = load<f32>(light, LIGHT_POSITION + 8) - oz;
    const along = cx * dx + cy * dy + cz * dz;
    const away = sqrt<f32>(max<f32>(1, cx * cx + cy * cy + cz * cz - along * along));
    const low = arc(-along, away),
      high = arc(end - along, away);
    const s = away * Mathf.tan(low + u * (high - low));
    t = max<f32>(0, min<f32>(end, along + s));
    pdf = away / ((high - low) * (away * away + s * s));
  } else {
    const whole = ONE - Mathf.exp(-mean * end);
    t = -Mathf.log(max<f32>(1e-7, ONE - u * whole)) / mean;
    pdf = (mean * Mathf.exp(-mean * t)) / whole;
  }
  if (!(pdf > 0)) return;
  const px = ox + t * dx,
    py = oy + t * dy,
    pz = oz + t * dz;
  openPlace(scene, px, py, pz, 0, 0, 0);
  draw2();
  if (!sampleChosen(scene, pickedLight, chance)) return;
  transmit(t);
  const value = phase(lightX * dx + lightY * dy + lightZ * dz, mediumG) / pdf;
  evaluatePhase(value * scatteringR * passR, value * scatteringG * passG, value * scatteringB * passB);
  addSampled(scene, px, py, pz, 0, 0, 0, 0, 0, false);
}
