// Parts that belong to what is seen behind, such as the ground of a plate: they show it where they stand, less the light that other
// parts take from it (Debevec, Rendering Synthetic Objects into Real Scenes, 1998).

import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz } from '../basis';
import { evaluateFinish, scatterB, scatterG, scatterPdf, scatterR } from '../finish/evaluate';
import {
  sampleFinish,
  samplePdf,
  sampleTransmitted,
  sampleX,
  sampleY,
  sampleZ,
  weightB,
  weightG,
  weightR,
} from '../finish/sample';
import { INSTANCE_CATCHES, INSTANCE_HIDES, INSTANCE_SHADOWLESS, SCENE_LIGHT_COUNT, SCENE_SHADE } from '../layout';
import {
  chanceOf,
  keepDistant,
  keepLight,
  lightB,
  lightDistance,
  lightG,
  lightInstance,
  lightLinks,
  lightPdf,
  lightR,
  lightShadowless,
  lightX,
  lightY,
  lightZ,
  openPlace,
  pickedLight,
  recallLight,
  sampleLight,
} from '../light';
import { draw1, draw2, drawX, drawY } from '../sampler';
import { lightReaches, reachB, reachG, reachR } from '../shadow';
import { meetSky, skyB, skyChosenPdf, skyG, skyR } from '../sky';
import { surfaceX, surfaceY, surfaceZ } from '../surface';
import { addShadow } from './outputs';
import { shadingX, shadingY, shadingZ } from './shadingNormal';
import { placeLinks } from './vertex';

const ONE: f32 = 1;
/** Lights that are tried at a place before one is asked whether it arrives. */
const TRIES = 6;

/** Part of the light of lamps and surroundings that arrives at the open surface. */
export let shadeR: f32 = 1;
export let shadeG: f32 = 1;
export let shadeB: f32 = 1;

/** Nothing stands in the light's way. */
export function leaveUnshaded(): void {
  shadeR = ONE;
  shadeG = ONE;
  shadeB = ONE;
}

/** Adds to the layer of shadows how much of the light arrives. */
export function addShade(): void {
  addShadow(ONE, luminance(shadeR, shadeG, shadeB));
}

function luminance(r: f32, g: f32, b: f32): f32 {
  return <f32>0.2126 * r + <f32>0.7152 * g + <f32>0.0722 * b;
}

/**
 * Finds the shade of the open surface for the finish and basis that are open; its flat normal and lift are given. One of several lights
 * is chosen by what it would send to the eye with nothing in its way, so that the mean of what arrives is the part of all light that
 * does (resampled importance sampling: Talbot, Cline and Egbert, Importance Resampling for Global Illumination, 2005). Parts that
 * shine are no light of the plate, and parts of the plate have their shadows in it.
 */
export function findShade(scene: usize, gx: f32, gy: f32, gz: f32, lift: f32): void {
  const px = surfaceX,
    py = surfaceY,
    pz = surfaceZ;
  const nx = shadingX,
    ny = shadingY,
    nz = shadingZ;
  const ax = basisXx,
    ay = basisXy,
    az = basisXz,
    bx = basisYx,
    by = basisYy,
    bz = basisYz;
  leaveUnshaded();
  const sky = load<u32>(scene, SCENE_LIGHT_COUNT) - 1;
  let total: f32 = 0;
  for (let k = 0; k < TRIES; k++) {
    draw2();
    const choice = drawY;
    openPlace(scene, px, py, pz, nx, ny, nz);
    if (!sampleLight(scene, drawX) || lightInstance >= 0) continue;
    if (lightLinks !== 0 && (lightLinks & placeLinks) === 0) continue;
    const z = lightX * nx + lightY * ny + lightZ * nz;
    if (!(z > 0 && lightX * gx + lightY * gy + lightZ * gz > 0)) continue;
    evaluateFinish(lightX * ax + lightY * ay + lightZ * az, lightX * bx + lightY * by + lightZ * bz, z);
    if (!(scatterPdf > 0)) continue;
    const pdf = <f32>TRIES * lightPdf;
    // What the finish mirrors of the surroundings is tried below too.
    const met: f32 = pickedLight === sky ? scatterPdf : 0;
    const weight = luminance(lightR * scatterR, lightG * scatterG, lightB * scatterB) / (pdf + met);
    total += weight;
    if (choice * total < weight) keepLight();
  }
  const lobe = draw1();
  draw2();
  const choice = draw1();
  if (sampleFinish(lobe, drawX, drawY) && !sampleTransmitted) {
    const x = sampleX * ax + sampleY * bx + sampleZ * nx;
    const y = sampleX * ay + sampleY * by + sampleZ * ny;
    const z = sampleX * az + sampleY * bz + sampleZ * nz;
    if (x * gx + y * gy + z * gz > 0) {
      meetSky(scene, x, y, z);
      const sampled: f32 = samplePdf > 0 ? <f32>TRIES * skyChosenPdf * chanceOf(scene, <i32>sky) : 0;
      const share: f32 = samplePdf > 0 ? samplePdf / (samplePdf + sampled) : ONE;
      const weight = share * luminance(weightR * skyR, weightG * skyG, weightB * skyB);
      total += weight;
      if (choice * total < weight) keepDistant(x, y, z);
    }
  }
  if (!(total > 0)) return;
  recallLight();
  if (lightShadowless) return;
  const arrives = lightReaches(
    scene,
    px + gx * lift,
    py + gy * lift,
    pz + gz * lift,
    lightX,
    lightY,
    lightZ,
    lightDistance > 1e19,
    INSTANCE_SHADOWLESS | INSTANCE_HIDES | INSTANCE_CATCHES,
  );
  const strength = load<f32>(scene, SCENE_SHADE);
  shadeR = ONE - strength + (arrives ? strength * reachR : <f32>0);
  shadeG = ONE - strength + (arrives ? strength * reachG : <f32>0);
  shadeB = ONE - strength + (arrives ? strength * reachB : <f32>0);
}
