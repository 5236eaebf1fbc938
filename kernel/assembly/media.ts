// The media that a path is in, one within another, and what the innermost does to light. What is read here is written by
// `openMedium`, after every step into or out of one; `passR`, G, B by `transmit`.

import { indexAt } from './finish/opened';
import {
  FINISH_EXTINCTION,
  FINISH_SCATTER_ANISOTROPY,
  FINISH_SCATTERING,
  FINISH_SUBSURFACE_ANISOTROPY,
  FINISH_SUBSURFACE_COLOR,
  FINISH_SUBSURFACE_RADIUS,
  INSTANCE_FLAGS,
  INSTANCE_HOLDS_LIGHT,
  INSTANCE_LENS,
  INSTANCE_SIZE,
  SCENE_FOG,
  SCENE_FOG_ALBEDO,
  SCENE_FOG_ANISOTROPY,
  SCENE_FOG_REACH,
  SCENE_INSTANCES,
} from './layout';

const ONE: f32 = 1;
const FAR: f32 = 1e20;
/** Media within one another. */
const MOST_MEDIA = 4;

let media: usize = 0;

/** Gives this worker room for the media a path is in, and behind them for those that are kept: 128 bytes. */
export function setMediaRoom(at: usize): void {
  media = at;
}

// Entry of the stack: 0 instance   4 finish*   8 kind

export const INSIDE_GLASS = 0;
export const UNDER_SURFACE = 1;

export let within = 0;
export let mediumKind = -1; // -1 outside
export let mediumInstance = -1;
export let extinctionR: f32 = 0;
export let extinctionG: f32 = 0;
export let extinctionB: f32 = 0;
export let scatteringR: f32 = 0;
export let scatteringG: f32 = 0;
export let scatteringB: f32 = 0;
export let mediumG: f32 = 0;
export let mediumLit = false;
export let mediumGuided = false;
export let mediumScatters = false;
export let mediumReach: f32 = FAR;

function entryOf(depth: i32): usize {
  return media + ((<usize>depth) << 4);
}

/** Reads what fills the space the path is in now. */
export function openMedium(scene: usize): void {
  mediumKind = -1;
  mediumInstance = -1;
  mediumLit = false;
  mediumGuided = false;
  if (within === 0) {
    extinctionR = load<f32>(scene, SCENE_FOG);
    extinctionG = load<f32>(scene, SCENE_FOG + 4);
    extinctionB = load<f32>(scene, SCENE_FOG + 8);
    scatteringR = extinctionR * load<f32>(scene, SCENE_FOG_ALBEDO);
    scatteringG = extinctionG * load<f32>(scene, SCENE_FOG_ALBEDO + 4);
    scatteringB = extinctionB * load<f32>(scene, SCENE_FOG_ALBEDO + 8);
    mediumG = load<f32>(scene, SCENE_FOG_ANISOTROPY);
    mediumReach = load<f32>(scene, SCENE_FOG_REACH);
  } else {
    const entry = entryOf(within - 1);
    mediumInstance = load<i32>(entry);
    const finish = <usize>load<u32>(entry, 4);
    mediumKind = load<i32>(entry, 8);
    const instance = <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>mediumInstance * INSTANCE_SIZE;
    const flags = load<u32>(instance, INSTANCE_FLAGS);
    mediumLit = (flags & INSTANCE_HOLDS_LIGHT) !== 0;
    mediumGuided = mediumKind === INSIDE_GLASS && !mediumLit && (flags & INSTANCE_LENS) !== 0;
    mediumReach = FAR;
    if (mediumKind === UNDER_SURFACE) {
      mediumG = load<f32>(finish, FINISH_SUBSURFACE_ANISOTROPY);
      extinctionR = ONE / load<f32>(finish, FINISH_SUBSURFACE_RADIUS);
      extinctionG = ONE / load<f32>(finish, FINISH_SUBSURFACE_RADIUS + 4);
      extinctionB = ONE / load<f32>(finish, FINISH_SUBSURFACE_RADIUS + 8);
      scatteringR = extinctionR * scatteringAlbedo(load<f32>(finish, FINISH_SUBSURFACE_COLOR), mediumG);
      scatteringG = extinctionG * scatteringAlbedo(load<f32>(finish, FINISH_SUBSURFACE_COLOR + 4), mediumG);
      scatteringB = extinctionB * scatteringAlbedo(load<f32>(finish, FINISH_SUBSURFACE_COLOR + 8), mediumG);
    } else {
      extinctionR = load<f32>(finish, FINISH_EXTINCTION);
      extinctionG = load<f32>(finish, FINISH_EXTINCTION + 4);
      extinctionB = load<f32>(finish, FINISH_EXTINCTION + 8);
      scatteringR = load<f32>(finish, FINISH_SCATTERING);
      scatteringG = load<f32>(finish, FINISH_SCATTERING + 4);
      scatteringB = load<f32>(finish, FINISH_SCATTERING + 8);
      mediumG = load<f32>(finish, FINISH_SCATTER_ANISOTROPY);
    }
  }
  mediumScatters = scatteringR + scatteringG + scatteringB > 0;
}

/** Single scattering albedo of matter that looks `color` when there is much of it (OpenPBR Surface 1.1, after Kulla and Conty, 2017). */
function scatteringAlbedo(color: f32, g: f32): f32 {
  const c = max<f32>(0, min<f32>(0.9999, color));
  const s = <f32>4.09712 + <f32>4.20863 * c - sqrt<f32>(<f32>9.59217 + c * (<f32>41.6808 + <f32>17.7126 * c));
  return max<f32>(0, (ONE - s * s) / (ONE - g * s * s));
}

export function enterMedium(scene: usize, instance: i32, finish: usize, kind: i32): void {
  if (within < MOST_MEDIA) {
    const entry = entryOf(within++);
    store<i32>(entry, instance);
    store<u32>(entry, <u32>finish, 4);
    store<i32>(entry, kind, 8);
  }
  openMedium(scene);
}

export function leaveMedium(scene: usize, instance: i32): void {
  for (let k = within - 1; k >= 0; k--) {
    if (load<i32>(entryOf(k)) !== instance) continue;
    for (let j = k; j < within - 1; j++) memory.copy(entryOf(j), entryOf(j + 1), 16);
    within--;
    break;
  }
  openMedium(scene);
}

/** Index of what a surface of `instance` borders on: the innermost clear medium that is not its own. */
export function surroundingIndex(instance: i32, nanometres: f32): f32 {
  for (let k = within - 1; k >= 0; k--) {
    const entry = entryOf(k);
    if (load<i32>(entry) !== instance && load<i32>(entry, 8) === INSIDE_GLASS)
      return indexAt(<usize>load<u32>(entry, 4), nanometres);
  }
  return 1;
}

export let passR: f32 = 1;
export let passG: f32 = 1;
export let passB: f32 = 1;
/** What the present medium lets through over a distance. */
export function transmit(distance: f32): void {
  if (extinctionR + extinctionG + extinctionB <= 0) {
    passR = 1;
    passG = 1;
    passB = 1;
    return;
  }
  const d = min(distance, mediumReach);
  passR = Mathf.exp(-extinctionR * d);
  passG = Mathf.exp(-extinctionG * d);
  passB = Mathf.exp(-extinctionB * d);
}

/** A path begins outside of everything. */
export function leaveAllMedia(): void {
  within = 0;
}

let keptWithin = 0;

/** Keeps the media the path is in while another one is followed from here. */
export function keepMedia(): void {
  keptWithin = within;
  memory.copy(entryOf(MOST_MEDIA), media, 16 * MOST_MEDIA);
}

/** The path is in the media that were kept. */
export function recallMedia(scene: usize): void {
  within = keptWithin;
  memory.copy(media, entryOf(MOST_MEDIA), 16 * MOST_MEDIA);
  openMedium(scene);
}
