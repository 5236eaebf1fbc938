// Where on the lens light comes in from what shines out of focus: for one point of the picture, such a lamp covers a disc in the
// plane of the lens. Where that takes in little of the lens, most rays miss it: small lamps far out of focus, and the soft rims of all
// others. Combined with rays through all of the lens by the balance heuristic (Veach, Robust Monte Carlo Methods for Light
// Transport Simulation, 1997), so nothing is counted twice.

import {
  focusX,
  focusY,
  focusZ,
  lensPdf,
  lensRadius,
  seeFromLens,
  seenX,
  seenY,
  seenZ,
  slopeX,
  slopeY,
} from './camera';
import { GUIDE_SIZE, SCENE_LENS_GUIDES, SCENE_LENS_GUIDE_COUNT } from './layout';

const ONE: f32 = 1;
const TWO: f32 = 2;
/** Part of the lens beyond which rays through all of it find a light often enough. */
const MOST_COVERED: f32 = 0.5;

/** Point of the lens chosen by `chooseLensPoint`, along its right and up. */
export let pointX: f32 = 0;
export let pointY: f32 = 0;

let total: f32 = 0;

// The disc of a guide, and a rectangle about what it shares with the lens: its sides lie along the line from the middle of the
// lens to that of the disc, and across it.
let discX: f32 = 0;
let discY: f32 = 0;
let discRadius: f32 = 0;
let alongX: f32 = 1;
let alongY: f32 = 0;
let low: f32 = 0;
let high: f32 = 0;
let half: f32 = 0;
/** Density of a point of the rectangle over its area. */
let density: f32 = 0;

/** Opens what a guide covers of the lens for the present point of the picture, and returns its weight: 0 for nothing, or too much. */
function openGuide(scene: usize, guide: usize): f32 {
  const aside = slopeX - load<f32>(guide, 20),
    above = slopeY - load<f32>(guide, 24);
  if (aside * aside + above * above > load<f32>(guide, 28)) return 0;
  seeFromLens(load<f32>(guide), load<f32>(guide, 4), load<f32>(guide, 8));
  const radius = load<f32>(guide, 12);
  const beyond = seenZ - focusZ;
  if (seenZ <= radius || abs(beyond) <= radius) return 0;
  // Lines through the point in focus: what stands at seenZ comes in at 0.
  const scale = -focusZ / beyond;
  const x = seenX - focusX,
    y = seenY - focusY;
  discX = focusX + scale * x;
  discY = focusY + scale * y;
  discRadius = radius * abs(scale) * sqrt<f32>(ONE + (x * x + y * y) / (beyond * beyond));
  const away2 = discX * discX + discY * discY,
    reach = lensRadius + discRadius;
  if (away2 >= reach * reach) return 0;
  const away = sqrt<f32>(away2);
  alongX = away > 0 ? discX / away : ONE;
  alongY = away > 0 ? discY / away : <f32>0;
  low = max(-lensRadius, away - discRadius);
  high = min(lensRadius, away + discRadius);
  half = min(lensRadius, discRadius);
  // Where the circles cross beyond both middles, what they share is no wider than their common chord.
  const crossing = away > 0 ? (away2 + lensRadius * lensRadius - discRadius * discRadius) / (TWO * away) : <f32>0;
  if (crossing > 0 && crossing < away)
    half = min(half, sqrt<f32>(max<f32>(0, lensRadius * lensRadius - crossing * crossing)));
  const area = (high - low) * TWO * half;
  density = ONE / area;
  if (!(area > 0) || lensPdf(scene) > MOST_COVERED * density) return 0;
  return (load<f32>(guide, 16) / (radius * radius)) * area;
}

/** Opens the point of the picture that `startRay` chose last. False where all of the lens is as good. */
export function openLensGuides(scene: usize): bool {
  total = 0;
  const count = load<u32>(scene, SCENE_LENS_GUIDE_COUNT);
  if (count === 0 || lensRadius <= 0) return false;
  const guides = <usize>load<u32>(scene, SCENE_LENS_GUIDES);
  for (let k: u32 = 0; k < count; k++) total += openGuide(scene, guides + <usize>k * GUIDE_SIZE);
  return total > 0;
}

/** Whether a point of the lens is in the rectangle and the disc opened last. */
function isCovered(x: f32, y: f32): bool {
  const along = x * alongX + y * alongY,
    across = y * alongX - x * alongY;
  const dx = x - discX,
    dy = y - discY;
  return along >= low && along <= high && abs(across) <= half && dx * dx + dy * dy <= discRadius * discRadius;
}

/** Chooses a point of the lens for a guide. False where nothing comes in there from that. */
export function chooseLensPoint(scene: usize, choice: f32, u: f32, v: f32): bool {
  const guides = <usize>load<u32>(scene, SCENE_LENS_GUIDES);
  const count = load<u32>(scene, SCENE_LENS_GUIDE_COUNT);
  let c = choice * total;
  let covered: bool = false;
  for (let k: u32 = 0; k < count; k++) {
    const weight = openGuide(scene, guides + <usize>k * GUIDE_SIZE);
    if (weight <= 0) continue;
    const along = low + u * (high - low),
      across = (TWO * v - 1) * half;
    pointX = along * alongX - across * alongY;
    pointY = along * alongY + across * alongX;
    covered = isCovered(pointX, pointY);
    c -= weight;
    if (c < 0) break;
  }
  return covered;
}

/** Weight of light that comes straight from what shines through a point of the lens, whether chosen by `startRay` or for a guide. */
export function lensWeight(scene: usize, x: f32, y: f32): f32 {
  if (total <= 0) return 1;
  const guides = <usize>load<u32>(scene, SCENE_LENS_GUIDES);
  const count = load<u32>(scene, SCENE_LENS_GUIDE_COUNT);
  let sum: f32 = 0;
  for (let k: u32 = 0; k < count; k++) {
    const weight = openGuide(scene, guides + <usize>k * GUIDE_SIZE);
    if (weight > 0 && isCovered(x, y)) sum += weight * density;
  }
  const plain = lensPdf(scene);
  return plain / (plain + sum / total);
}
