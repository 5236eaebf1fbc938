// The last vertex that scattered, and the two estimates of a light that go out from it: sampling the light, and meeting it with the
// ray that goes on. They are combined by the balance heuristic (Veach, Robust Monte Carlo Methods for Light Transport Simulation,
// 1997). State is written by `setVertex`, `setLead` and `openVertices` alone.

import { scatterB, scatterG, scatterR } from '../finish/evaluate';
import {
  INSTANCE_FLAGS,
  INSTANCE_SHADOWLESS,
  INSTANCE_SIZE,
  INSTANCE_UNMIRRORED,
  LIGHT_FLAGS,
  LIGHT_SHADOWLESS,
  LIGHT_SIZE,
  LINKS_SHIFT,
  SCENE_BY_CHANCE,
  SCENE_INSTANCES,
  SCENE_LIGHTS,
  SCENE_LOCAL_LIGHTS,
} from '../layout';
import {
  chanceOf,
  lightB,
  lightDistance,
  lightG,
  lightGroup,
  lightInstance,
  lightLinks,
  lightPdf,
  lightR,
  lightShadowless,
  lightX,
  lightY,
  lightZ,
  openPlace,
} from '../light';
import { passB, passG, passR, transmit } from '../media';
import { beginReach, lampMap, lightReaches, mapB, mapG, mapR, passedParts, reachB, reachG, reachR } from '../shadow';
import { add, addShadow } from './outputs';

const ONE: f32 = 1;
/** Density over solid angle from which on scattering shows what gives the light, and not the light alone: some ten degrees. */
const SHARP: f32 = 30;
/** Of what no part is: every light lights it. */
export const ALL_LINKS: u32 = 0x1fffff;

// Its place and normal, and the density of the ray from it. A density of 0 (camera, mirrors) means that no light sample could have
// met what the ray meets; one below 0 that light samples have counted all of it.
export let vertexX: f32 = 0;
export let vertexY: f32 = 0;
export let vertexZ: f32 = 0;
export let vertexPdf: f32 = 0;
/** Bits of what it is on: which lights that light chosen parts alone light it. */
let vertexLinks: u32 = ALL_LINKS;
let normalX: f32 = 0;
let normalY: f32 = 0;
let normalZ: f32 = 0;

/** No light is sampled: see SCENE_BY_CHANCE. */
export let byChance = false;
/**
 * Weight of what is found after a vertex from which `lightThroughLens` looked for it too: lamps beyond smooth glass, and all that is
 * sampled at, or met from, the first surface that is not smooth.
 */
export let lead: f32 = 1;
/** That surface was met. */
export let leadEnds: bool = false;

/** Begins a path. */
export function openVertices(scene: usize): void {
  byChance = load<u32>(scene, SCENE_BY_CHANCE) !== 0;
  setLead(1, true);
  setLinks(ALL_LINKS);
}

export function setVertex(x: f32, y: f32, z: f32, nx: f32, ny: f32, nz: f32, pdf: f32): void {
  vertexX = x;
  vertexY = y;
  vertexZ = z;
  normalX = nx;
  normalY = ny;
  normalZ = nz;
  vertexPdf = byChance ? 0 : pdf;
  vertexLinks = placeLinks;
}

/** Bits of the place that lights are sampled for, and that becomes the next vertex. */
export let placeLinks: u32 = 0;
export function setLinks(links: u32): void {
  placeLinks = links;
}

export function setLead(weight: f32, ends: bool): void {
  lead = weight;
  leadEnds = ends;
}

/** Weight of a light that the ray met, against having sampled it: `pdf` without the choice of the light. */
export function meetWeight(scene: usize, light: i32, pdf: f32): f32 {
  if (light >= 0) {
    const links =
      load<u32>(<usize>load<u32>(scene, SCENE_LIGHTS) + <usize>light * LIGHT_SIZE, LIGHT_FLAGS) >> LINKS_SHIFT;
    if (links !== 0 && (links & vertexLinks) === 0) return 0;
  }
  if (vertexPdf === 0) return leadEnds || light < load<i32>(scene, SCENE_LOCAL_LIGHTS) ? lead : ONE;
  if (vertexPdf < 0) return 0;
  if (light >= 0) {
    const record = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>light * LIGHT_SIZE;
    // Light samples count a lamp without shadows whole, as rays do not see it through things.
    if (load<u32>(record, LIGHT_FLAGS) & LIGHT_SHADOWLESS) return 0;
  }
  openPlace(scene, vertexX, vertexY, vertexZ, normalX, normalY, normalZ);
  return (lead * vertexPdf) / (vertexPdf + pdf * chanceOf(scene, light));
}

/**
 * Adds the light sampled last, through the scattering evaluated last; `s` leads off the surface along its flat normal. `pdf` is the
 * density with which the ray that goes on would take the same direction. Where the surface `catches`, the layer of shadows is kept.
 */
export function addSampled(
  scene: usize,
  px: f32,
  py: f32,
  pz: f32,
  gx: f32,
  gy: f32,
  gz: f32,
  s: f32,
  pdf: f32,
  catches: bool,
): void {
  if (lightLinks !== 0 && (lightLinks & placeLinks) === 0) return;
  const lx = lightX,
    ly = lightY,
    lz = lightZ;
  const distance = lightDistance,
    group = lightGroup;
  let lr = lightR * scatterR,
    lg = lightG * scatterG,
    lb = lightB * scatterB;
  let unmet = lightShadowless;
  if (lightInstance >= 0) {
    const instance = <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>lightInstance * INSTANCE_SIZE;
    if (load<u32>(instance, INSTANCE_FLAGS) & INSTANCE_UNMIRRORED) {
      if (pdf > SHARP) return;
      unmet = true;
    }
    lampMap(scene);
    lr *= mapR;
    lg *= mapG;
    lb *= mapB;
  }
  const chosenPdf = lightPdf;
  const alone = ONE / chosenPdf;
  const reached =
    lightShadowless ||
    lightReaches(scene, px + gx * s, py + gy * s, pz + gz * s, lx, ly, lz, distance > 1e19, INSTANCE_SHADOWLESS);
  if (lightShadowless) {
    beginReach(1);
  }
  if (catches) {
    addShadow(
      alone * (<f32>0.2126 * lr + <f32>0.7152 * lg + <f32>0.0722 * lb),
      reached ? alone * (<f32>0.2126 * lr * reachR + <f32>0.7152 * lg * reachG + <f32>0.0722 * lb * reachB) : <f32>0,
    );
  }
  if (!reached) return;
  // What rays cannot meet is counted whole.
  const w = unmet || passedParts ? lead * alone : lead / (chosenPdf + pdf);
  transmit(distance);
  add(group, lr * w * reachR * passR, lg * w * reachG * passG, lb * w * reachB * passB);
}
