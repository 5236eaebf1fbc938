// One path from the camera: next-event estimation at every vertex, combined with hits of lights by the balance heuristic
// (Veach, Robust Monte Carlo Methods for Light Transport Simulation, 1997).

import { openness } from './openness';
import {
  beginReach,
  disturbed,
  finishThere,
  lampMap,
  lightReaches,
  mapB,
  mapG,
  mapR,
  passesThrough,
  reachB,
  reachG,
  reachR,
  settleFinish,
} from './shadow';

import {
  INSIDE_GLASS,
  UNDER_SURFACE,
  enterMedium,
  extinctionB,
  extinctionG,
  extinctionR,
  keepMedia,
  leaveAllMedia,
  leaveMedium,
  mediumG,
  mediumGuided,
  mediumInstance,
  mediumKind,
  mediumLit,
  mediumReach,
  mediumScatters,
  openMedium,
  passB,
  passG,
  passR,
  recallMedia,
  scatteringB,
  scatteringG,
  scatteringR,
  setMediaRoom,
  surroundingIndex,
  transmit,
  within,
} from './media';
import { arc, turn, turnCosine, turnSine } from './angle';
import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasis, makeBasisAlong, turnBasis } from './basis';
import {
  aimThrough,
  depthAlongAxis,
  directionX,
  directionY,
  directionZ,
  isOpen,
  lensX,
  lensY,
  originX,
  originY,
  originZ,
  pictureX,
  pictureY,
  projectNext,
} from './camera';
import {
  evaluateExit,
  evaluateFinish,
  evaluatePhase,
  finishDisperses,
  finishIsSmoothGlass,
  finishIsWide,
  openFinish,
  sampleEntered,
  sampleFinish,
  samplePassed,
  samplePdf,
  sampleTransmitted,
  sampleX,
  sampleY,
  sampleZ,
  scatterB,
  scatterG,
  scatterPdf,
  scatterR,
  weighDirection,
  weightB,
  weightG,
  weightR,
} from './finish';
import { chooseGuide, guidePdf, guideX, guideY, guideZ, openGuides } from './guide';
import { lampAlong, lampB, lampG, lampHit, lampPdf, lampR, surfacePdf } from './lamp';
import { chooseLensPoint, lensWeight, openLensGuides, pointX, pointY } from './lensGuide';
import {
  BEHIND_COLOR,
  BEHIND_PICTURE,
  BEHIND_PLATE,
  BEHIND_SURROUNDINGS,
  BEHIND_TRANSPARENT,
  FINISH_ANISOTROPY,
  FINISH_BASE,
  FINISH_COAT_ANISOTROPY,
  FINISH_EMISSION,
  FINISH_HASH,
  FINISH_MAP_COUNT,
  FINISH_NORMAL,
  FINISH_OPACITY,
  FINISH_ROTATION,
  FINISH_SUBSURFACE,
  FINISH_SUBSURFACE_COLOR,
  FINISH_THIN,
  FINISH_TRANSMISSION,
  INSTANCE_CATCHER,
  INSTANCE_DARK_TO_CAMERA,
  INSTANCE_EMISSION,
  INSTANCE_FINISH,
  INSTANCE_FLAGS,
  INSTANCE_HASH,
  INSTANCE_LIGHT,
  INSTANCE_NEXT,
  INSTANCE_PART,
  INSTANCE_TWO_SIDED,
  LAYER_LIGHTS,
  LAYER_MOTION,
  LAYER_OCCLUSION,
  LAYER_SHADOW,
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_POSITION,
  LIGHT_SEEN,
  LIGHT_SHADOWLESS,
  LIGHT_SIZE,
  SCENE_BEHIND,
  SCENE_BEHIND_COLOR,
  SCENE_BEHIND_FIT,
  SCENE_BEHIND_PICTURE,
  SCENE_BY_CHANCE,
  SCENE_CAMERA,
  CAMERA_TAN_X,
  SCENE_DEPTH,
  SCENE_GROUPS,
  SCENE_LAMPS,
  SCENE_LAYERS,
  SCENE_LIGHT_COUNT,
  SCENE_LIGHTS,
  SCENE_LOCAL_LIGHTS,
  SCENE_SPECK,
  SCENE_HEIGHT,
  SCENE_WIDTH,
} from './layout';
import {
  chanceOf,
  lightB,
  lightDistance,
  lightG,
  lightGroup,
  lightInstance,
  lightPdf,
  lightR,
  lightShadowless,
  lightX,
  lightY,
  lightZ,
  openPlace,
  pickedLight,
  pickLightForRay,
  sampleChosen,
  sampleLight,
  sunAt,
} from './light';
import { phase, samplePhaseCosine } from './medium';
import { draw1, draw2, drawX, drawY } from './sampler';
import { meetBehind, meetSky, skyB, skyChosenPdf, skyG, skyR } from './sky';
import {
  flatX,
  flatY,
  flatZ,
  mirrored,
  objectX,
  objectY,
  objectZ,
  openSurface,
  openTexture,
  smoothX,
  smoothY,
  smoothZ,
  surfaceArea,
  surfaceInstance,
  surfaceLift,
  surfaceU,
  surfaceV,
  surfaceX,
  surfaceY,
  surfaceZ,
  tangentX,
  tangentY,
  tangentZ,
  texturePerLength,
} from './surface';
import { lookUp, mappedFinish, texelB, texelG, texelR } from './texture';
import { hitInstance, hitT, keepHit, recallHit, trace } from './traverse';

const ONE: f32 = 1;
const TWO: f32 = 2;
const FAR: f32 = 1e20;
/** Walls of thin glass a ray may pass on top of its bounces. */
const MOST_PASSES = 24;
/** Share of directions at a wide vertex that are tried towards guides. */
const GUIDED: f32 = 0.5;
/** Steps of a walk under a surface. */
const MOST_STEPS = 1024;

/** Result of `tracePath`. */
export let pathR: f32 = 0;
export let pathG: f32 = 0;
export let pathB: f32 = 0;
export let pathAlpha: f32 = 0;
export let pathDepth: f32 = 0;
export let pathAxis: f32 = 0;
export let pathNormalX: f32 = 0;
export let pathNormalY: f32 = 0;
export let pathNormalZ: f32 = 0;
export let pathAlbedoR: f32 = 0;
export let pathAlbedoG: f32 = 0;
export let pathAlbedoB: f32 = 0;
export let pathPart: u32 = 0;
export let pathX: f32 = 0;
export let pathY: f32 = 0;
export let pathZ: f32 = 0;
export let pathMotionX: f32 = 0;
export let pathMotionY: f32 = 0;
export let pathEmissionR: f32 = 0;
export let pathEmissionG: f32 = 0;
export let pathEmissionB: f32 = 0;
export let pathLit: f32 = 0;
export let pathUnshaded: f32 = 0;
export let pathOpenness: f32 = 0;
export let pathPartHash: u32 = 0;
export let pathFinishHash: u32 = 0;

let groups: usize = 0;

/** Gives this worker room for the light of each group, and for the media a path is in. */
export function setPathScratch(groupsAt: usize, mediaAt: usize): void {
  groups = groupsAt;
  setMediaRoom(mediaAt);
}

let throughR: f32 = 1;
let throughG: f32 = 1;
let throughB: f32 = 1;
let limit: f32 = 0;
/**
 * What a path may be expected to carry here: less where it was led towards a lamp, as it will meet more light than others, and less
 * in dense matter, where light is brighter. Only beneath that is it dim.
 */
let expected: f32 = 1;
let splitGroups: bool = false;

function add(group: u32, r: f32, g: f32, b: f32): void {
  let x = throughR * r,
    y = throughG * g,
    z = throughB * b;
  if (!(x + y + z < 1e30)) return;
  if (limit > 0) {
    const most = max(x, max(y, z));
    if (most > limit) {
      const k = limit / most;
      x *= k;
      y *= k;
      z *= k;
    }
  }
  pathR += x;
  pathG += y;
  pathB += z;
  if (!splitGroups) return;
  const at = groups + <usize>group * 12;
  store<f32>(at, load<f32>(at) + x);
  store<f32>(at, load<f32>(at, 4) + y, 4);
  store<f32>(at, load<f32>(at, 8) + z, 8);
}

// -------------------------------------------------------------------------------------------------------------- vertices

// The last vertex that scattered: its place and normal, and the density of the ray from it. A density of 0 (camera, mirrors) means
// that no light sample could have met what the ray meets; one below 0 that light samples have counted all of it.
let vx: f32 = 0;
let vy: f32 = 0;
let vz: f32 = 0;
let vnx: f32 = 0;
let vny: f32 = 0;
let vnz: f32 = 0;
let vPdf: f32 = 0;

/**
 * Weight of what is found after a vertex from which `lightThroughLens` looked for it too: lamps beyond smooth glass, and all that is
 * sampled at, or met from, the first surface that is not smooth.
 */
let lead: f32 = 1;
/** That surface was met. */
let leadEnds = false;

function setVertex(x: f32, y: f32, z: f32, nx: f32, ny: f32, nz: f32, pdf: f32): void {
  vx = x;
  vy = y;
  vz = z;
  vnx = nx;
  vny = ny;
  vnz = nz;
  vPdf = byChance ? 0 : pdf;
}

/** Weight of a light that the ray met, against having sampled it: `pdf` without the choice of the light. */
function meetWeight(scene: usize, light: i32, pdf: f32): f32 {
  if (vPdf === 0) return leadEnds || light < load<i32>(scene, SCENE_LOCAL_LIGHTS) ? lead : ONE;
  if (vPdf < 0) return 0;
  if (light >= 0) {
    const record = <usize>load<u32>(scene, SCENE_LIGHTS) + <usize>light * LIGHT_SIZE;
    // Light samples count a lamp without shadows whole, as rays do not see it through things.
    if (load<u32>(record, LIGHT_FLAGS) & LIGHT_SHADOWLESS) return 0;
  }
  openPlace(scene, vx, vy, vz, vnx, vny, vnz);
  return (lead * vPdf) / (vPdf + pdf * chanceOf(scene, light));
}

/** No light is sampled: see SCENE_BY_CHANCE. */
let byChance = false;

/** Wavelength of the path in nm, 0 while it carries all. */
let nanometres: f32 = 0;

/** Narrows the path to one wavelength. Windows of the three channels each have a mean weight of one over 400 to 700 nm. */
function takeApart(u: f32): void {
  nanometres = 400 + 300 * u;
  throughR *= window(610, 90);
  throughG *= window(545, 75);
  throughB *= window(450, 50);
}

function window(centre: f32, half: f32): f32 {
  return max<f32>(0, ONE - abs(nanometres - centre) / half) * (<f32>300 / half);
}

/** Follows the ray the camera has started. `spare` is a number from 0 to 1 for the wavelength. */
export function tracePath(scene: usize, spare: f32): void {
  pathR = 0;
  pathG = 0;
  pathB = 0;
  pathAlpha = 0;
  pathDepth = 0;
  pathAxis = 0;
  pathNormalX = 0;
  pathNormalY = 0;
  pathNormalZ = 0;
  pathAlbedoR = 0;
  pathAlbedoG = 0;
  pathAlbedoB = 0;
  pathPart = 0;
  pathMotionX = 0;
  pathMotionY = 0;
  pathEmissionR = 0;
  pathEmissionG = 0;
  pathEmissionB = 0;
  pathLit = 0;
  pathUnshaded = 0;
  pathOpenness = 1;
  throughR = 1;
  throughG = 1;
  throughB = 1;
  nanometres = 0;
  limit = 0;
  expected = 1;
  leaveAllMedia();
  byChance = load<u32>(scene, SCENE_BY_CHANCE) !== 0;
  openMedium(scene);
  const layers = load<u32>(scene, SCENE_LAYERS);
  splitGroups = (layers & LAYER_LIGHTS) !== 0;
  if (splitGroups) memory.fill(groups, 0, <usize>load<u32>(scene, SCENE_GROUPS) * 12);
  filmX = pictureX;
  filmY = pictureY;
  const ox = originX,
    oy = originY,
    oz = originZ,
    dx = directionX,
    dy = directionY,
    dz = directionZ;
  const atX = lensX,
    atY = lensY;
  if (openLensGuides(scene)) addThroughLens(scene);
  startX = atX;
  startY = atY;
  lead = 1;
  leadEnds = true;
  setVertex(ox, oy, oz, 0, 0, 0, 0);
  follow(scene, spare, ox, oy, oz, dx, dy, dz, 0, 0, false);
}

/** Where the camera's ray left the lens. */
let startX: f32 = 0;
let startY: f32 = 0;

/**
 * Follows a ray until it ends, and adds what it finds. `whole` is the way behind it. A ray that is `aside` is not the path itself but one
 * more way to lamps: it scatters in no matter, and ends where it meets the second surface that is not smooth.
 */
function follow(
  scene: usize,
  spare: f32,
  ox: f32,
  oy: f32,
  oz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  whole: f32,
  bounces: i32,
  aside: bool,
): void {
  const layers = load<u32>(scene, SCENE_LAYERS);
  const most = load<i32>(scene, SCENE_DEPTH);
  const cone = (TWO * load<f32>(scene, SCENE_CAMERA + CAMERA_TAN_X)) / <f32>load<i32>(scene, SCENE_WIDTH);
  let travelled: f32 = 0;
  let straight = !aside;
  let tinted = !aside; // the albedo layer has not met a surface yet that scatters
  let passes = 0,
    steps = 0;
  let first = !aside;
  for (;;) {
    const hit = trace(scene, ox, oy, oz, dx, dy, dz, 0, FAR, false);
    const distance = hitT;
    meetLamps(
      scene,
      ox,
      oy,
      oz,
      dx,
      dy,
      dz,
      distance,
      travelled,
      straight,
      straight ? lensWeight(scene, startX, startY) : <f32>0,
    );
    if (mediumScatters && !aside) {
      const end = min(distance, mediumReach);
      if (mediumKind < 0 && bounces < most && !byChance) {
        // What fog scatters is found by the path alone, so it counts whole.
        const led = lead;
        lead = 1;
        keepHit();
        fogLight(scene, ox, oy, oz, dx, dy, dz, end);
        recallHit();
        lead = led;
      }
      const choice = draw1() * (throughR + throughG + throughB);
      const chosen: f32 = choice < throughR ? extinctionR : choice < throughR + throughG ? extinctionG : extinctionB;
      draw2();
      const t = -Mathf.log(max<f32>(1e-7, ONE - drawX)) / max<f32>(1e-12, chosen);
      const shares = ONE / max<f32>(1e-20, throughR + throughG + throughB);
      const scattered = t < end;
      transmit(scattered ? t : end);
      const wr = throughR * shares,
        wg = throughG * shares,
        wb = throughB * shares;
      if (scattered) {
        const pdf = wr * extinctionR * passR + wg * extinctionG * passG + wb * extinctionB * passB;
        if (!(pdf > 0)) return;
        const inv = ONE / pdf;
        throughR *= scatteringR * passR * inv;
        throughG *= scatteringG * passG * inv;
        throughB *= scatteringB * passB * inv;
        if (++steps > MOST_STEPS) return;
        if (mediumKind !== UNDER_SURFACE && ++bounces > most) return;
        if (straight) {
          pathAlpha = 1;
          straight = false;
        }
        limit = load<f32>(scene, SCENE_SPECK);
        const px = ox + t * dx,
          py = oy + t * dy,
          pz = oz + t * dz;
        const g = mediumG;
        lead = 1;
        leadEnds = true;
        if (mediumLit && !byChance) lightInMedium(scene, px, py, pz, dx, dy, dz, g);
        const guided = mediumGuided && !byChance && openGuides(scene, px, py, pz, true);
        if (guided) lightThroughLens(scene, spare, px, py, pz, dx, dy, dz, whole + t, bounces);
        draw2();
        const cosine = samplePhaseCosine(g, drawX);
        const sine = sqrt<f32>(max<f32>(0, ONE - cosine * cosine));
        turn(drawY);
        makeBasis(dx, dy, dz);
        const a = sine * turnCosine,
          b = sine * turnSine;
        const nx = a * basisXx + b * basisYx + cosine * dx;
        const ny = a * basisXy + b * basisYy + cosine * dy;
        const nz = a * basisXz + b * basisYz + cosine * dz;
        const own = phase(cosine, g);
        setVertex(px, py, pz, 0, 0, 0, mediumKind < 0 ? -1 : mediumLit ? own : <f32>0);
        if (guided && openGuides(scene, px, py, pz, true)) {
          lead = own / (own + guidePdf(scene, nx, ny, nz));
          leadEnds = false;
        }
        dx = nx;
        dy = ny;
        dz = nz;
        ox = px;
        oy = py;
        oz = pz;
        travelled = 0;
        whole += t;
        if (steps > 4 && !survives()) return;
        continue;
      }
      const inv = ONE / max<f32>(1e-30, wr * passR + wg * passG + wb * passB);
      throughR *= passR * inv;
      throughG *= passG * inv;
      throughB *= passB * inv;
    } else if (hit || within === 0) {
      transmit(distance);
      throughR *= passR;
      throughG *= passG;
      throughB *= passB;
    }
    if (!hit) {
      if (!aside || leadEnds) meetSurroundings(scene, dx, dy, dz, straight);
      return;
    }
    openSurface(scene);
    const instance = surfaceInstance(scene);
    const number = hitInstance;
    const flags = load<u32>(instance, INSTANCE_FLAGS);
    const facing = dx * flatX + dy * flatY + dz * flatZ;
    const inside = facing > 0;
    const plain = <usize>load<u32>(instance, INSTANCE_FINISH);
    let finish = plain;
    whole += distance;
    const mapped = load<u32>(plain, FINISH_MAP_COUNT) !== 0;
    const turned = load<f32>(plain, FINISH_ANISOTROPY) !== 0 || load<f32>(plain, FINISH_COAT_ANISOTROPY) !== 0;
    if (mapped || turned) openTexture(scene);
    const u = surfaceU,
      v = surfaceV;
    const footprint = (whole * cone * texturePerLength) / max<f32>(0.1, abs(facing));
    if (mapped) finish = mappedFinish(plain, u, v, footprint);
    const opacity = load<f32>(finish, FINISH_OPACITY);
    const eps = surfaceLift(scene);
    if (opacity < 1 && draw1() >= opacity) {
      if (++passes > MOST_PASSES) return;
      const away: f32 = inside ? eps : -eps;
      ox = surfaceX + flatX * away;
      oy = surfaceY + flatY * away;
      oz = surfaceZ + flatZ * away;
      travelled += distance;
      continue;
    }
    if (shines(instance, finish, inside, straight)) {
      const r = shineR,
        g = shineG,
        b = shineB;
      const light = load<i32>(instance, INSTANCE_LIGHT);
      const w = straight
        ? lensWeight(scene, startX, startY)
        : meetWeight(scene, light, surfacePdf(travelled + distance, abs(facing), surfaceArea(scene)));
      add(groupOf(scene, light), r * w, g * w, b * w);
      if (straight) addEmission(r * w, g * w, b * w);
    }
    const flip: f32 = inside ? -1 : 1;
    const gx = flatX * flip,
      gy = flatY * flip,
      gz = flatZ * flip;
    let nx = smoothX * flip,
      ny = smoothY * flip,
      nz = smoothZ * flip;
    if (-(nx * dx + ny * dy + nz * dz) < 0.01) {
      // Seen from behind its own blended normal: near a silhouette the flat one is the truth.
      nx = gx;
      ny = gy;
      nz = gz;
    }
    const px = surfaceX,
      py = surfaceY,
      pz = surfaceZ;
    if (
      mapped &&
      load<f32>(finish, FINISH_NORMAL) * load<f32>(finish, FINISH_NORMAL) +
        load<f32>(finish, FINISH_NORMAL + 4) * load<f32>(finish, FINISH_NORMAL + 4) >
        0
    ) {
      const bx = load<f32>(finish, FINISH_NORMAL),
        by = load<f32>(finish, FINISH_NORMAL + 4) * (mirrored ? <f32>-1 : <f32>1); // mirrored: v against n × u
      const bz = sqrt<f32>(max<f32>(0.01, ONE - bx * bx - by * by));
      makeBasisAlong(nx, ny, nz, tangentX, tangentY, tangentZ);
      const mx = bx * basisXx + by * basisYx + bz * nx,
        my = bx * basisXy + by * basisYy + bz * ny,
        mz = bx * basisXz + by * basisYz + bz * nz;
      const n = ONE / sqrt<f32>(mx * mx + my * my + mz * mz);
      if (-(mx * dx + my * dy + mz * dz) * n > 0.01) {
        nx = mx * n;
        ny = my * n;
        nz = mz * n;
      }
    }
    if (first) {
      first = false;
      pathDepth = whole;
      pathAxis = depthAlongAxis(px, py, pz);
      pathNormalX = nx;
      pathNormalY = ny;
      pathNormalZ = nz;
      pathPart = load<u32>(instance, INSTANCE_PART);
      pathAlpha = 1;
      pathX = px;
      pathY = py;
      pathZ = pz;
      pathPartHash = load<u32>(instance, INSTANCE_HASH);
      pathFinishHash = load<u32>(plain, FINISH_HASH);
      if (layers & LAYER_MOTION) motionTo(scene, instance, filmX, filmY, px, py, pz);
      if (layers & LAYER_OCCLUSION)
        pathOpenness = openness(scene, px + gx * eps, py + gy * eps, pz + gz * eps, nx, ny, nz);
    }
    if (mediumKind === UNDER_SURFACE && mediumInstance === number && inside) {
      // Out again: the outer side glows evenly with what comes from below.
      leaveMedium(scene, number);
      if (++bounces > most) return;
      limit = load<f32>(scene, SCENE_SPECK);
      const ax = -gx,
        ay = -gy,
        az = -gz;
      openFinish(finish, 0, 0, 1, false, 1, nanometres);
      openPlace(scene, px, py, pz, ax, ay, az);
      settleFinish();
      if (!byChance && sampleLight(scene, draw1())) {
        const iz = lightX * ax + lightY * ay + lightZ * az;
        if (iz > 0) {
          evaluateExit(iz);
          addSampled(scene, px, py, pz, ax, ay, az, eps, scatterPdf, false);
        }
      }
      if (disturbed) openFinish(mapped ? mappedFinish(plain, u, v, footprint) : plain, 0, 0, 1, false, 1, nanometres);
      draw2();
      makeBasis(ax, ay, az);
      turn(drawY);
      const r = sqrt<f32>(drawX);
      const x = r * turnCosine,
        y = r * turnSine,
        z = sqrt<f32>(max<f32>(1e-6, ONE - drawX));
      evaluateExit(z);
      throughR *= scatterR / scatterPdf;
      throughG *= scatterG / scatterPdf;
      throughB *= scatterB / scatterPdf;
      dx = x * basisXx + y * basisYx + z * ax;
      dy = x * basisXy + y * basisYy + z * ay;
      dz = x * basisXz + y * basisYz + z * az;
      setVertex(px, py, pz, ax, ay, az, scatterPdf);
      ox = px + ax * eps;
      oy = py + ay * eps;
      oz = pz + az * eps;
      travelled = 0;
      steps = 0;
      continue;
    }
    if (tinted) {
      const clear = load<f32>(finish, FINISH_TRANSMISSION);
      const below = load<f32>(finish, FINISH_SUBSURFACE) * (ONE - clear);
      const base = ONE - clear - below;
      pathAlbedoR = load<f32>(finish, FINISH_BASE) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR) * below + clear;
      pathAlbedoG =
        load<f32>(finish, FINISH_BASE + 4) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR + 4) * below + clear;
      pathAlbedoB =
        load<f32>(finish, FINISH_BASE + 8) * base + load<f32>(finish, FINISH_SUBSURFACE_COLOR + 8) * below + clear;
    }
    if (bounces >= most) return;
    if (turned) {
      makeBasisAlong(nx, ny, nz, tangentX, tangentY, tangentZ);
      turnBasis(load<f32>(finish, FINISH_ROTATION) * flip);
    } else makeBasis(nx, ny, nz);
    const ax = basisXx,
      ay = basisXy,
      az = basisXz,
      bx = basisYx,
      by = basisYy,
      bz = basisYz;
    const surround = surroundingIndex(number, nanometres);
    const wx = -(dx * ax + dy * ay + dz * az),
      wy = -(dx * bx + dy * by + dz * bz),
      wz = -(dx * nx + dy * ny + dz * nz);
    openFinish(finish, wx, wy, wz, inside, surround, nanometres);
    if (nanometres === 0 && finishDisperses()) {
      takeApart(spare);
      openFinish(finish, wx, wy, wz, inside, surround, nanometres);
    }
    const smoothGlass = finishIsSmoothGlass();
    if (!smoothGlass) {
      tinted = false;
      if (leadEnds) {
        if (aside) return;
        lead = 1;
      }
      leadEnds = true;
    }
    const guided = !smoothGlass && finishIsWide() && openGuides(scene, px, py, pz, false);
    const share: f32 = guided ? GUIDED : 0;
    const catches = straight && (layers & LAYER_SHADOW) !== 0 && (flags & INSTANCE_CATCHER) !== 0;
    settleFinish();
    draw2();
    const pick = drawX;
    let choice = drawY;
    if (!smoothGlass) {
      if (bounces > 0) limit = load<f32>(scene, SCENE_SPECK);
      openPlace(scene, px, py, pz, nx, ny, nz);
      if (!byChance && sampleLight(scene, pick)) {
        const iz = lightX * nx + lightY * ny + lightZ * nz;
        const side = lightX * gx + lightY * gy + lightZ * gz;
        if (iz * side > 0) {
          evaluateFinish(lightX * ax + lightY * ay + lightZ * az, lightX * bx + lightY * by + lightZ * bz, iz);
          if (scatterPdf > 0 && scatterR + scatterG + scatterB > 0) {
            const s: f32 = side > 0 ? eps : -eps;
            const pdf = guided
              ? (ONE - share) * scatterPdf + share * guidePdf(scene, lightX, lightY, lightZ)
              : scatterPdf;
            const through = side < 0 && load<f32>(finish, FINISH_THIN) <= 0;
            if (through) {
              // The other side of the wall is another medium.
              if (inside) leaveMedium(scene, number);
              else enterMedium(scene, number, plain, INSIDE_GLASS);
            }
            addSampled(scene, px, py, pz, gx, gy, gz, s, pdf, catches);
            if (through) {
              if (inside) enterMedium(scene, number, plain, INSIDE_GLASS);
              else leaveMedium(scene, number);
            }
          }
        }
      }
    }
    if (disturbed) {
      // The shadow ray has opened finishes on its way.
      if (mapped) finish = mappedFinish(plain, u, v, footprint);
      openFinish(finish, wx, wy, wz, inside, surround, nanometres);
    }
    draw2();
    const byGuide = guided && choice < share;
    if (byGuide) {
      chooseGuide(scene, choice / share, drawX, drawY);
      const lx = guideX * ax + guideY * ay + guideZ * az,
        ly = guideX * bx + guideY * by + guideZ * bz;
      const lz = guideX * nx + guideY * ny + guideZ * nz;
      evaluateFinish(lx, ly, lz);
      if (!weighDirection(lx, ly, lz, (ONE - share) * scatterPdf + share * guidePdf(scene, guideX, guideY, guideZ)))
        return;
    } else {
      if (guided) choice = (choice - share) / (ONE - share);
      if (!sampleFinish(choice, drawX, drawY)) return;
    }
    const x = sampleX * ax + sampleY * bx + sampleZ * nx;
    const y = sampleX * ay + sampleY * by + sampleZ * ny;
    const z = sampleX * az + sampleY * bz + sampleZ * nz;
    const side = x * gx + y * gy + z * gz;
    if (sampleTransmitted ? side >= 0 : side <= 0) return;
    let pdf = samplePdf;
    let again: f32 = 1;
    if (guided && !byGuide) {
      // Chosen by the finish: what the guides would have given to this direction counts too.
      const mixed: f32 = pdf > 0 ? (ONE - share) * pdf + share * guidePdf(scene, x, y, z) : ONE - share;
      again = pdf > 0 ? pdf / mixed : ONE / mixed;
      if (pdf > 0) pdf = mixed;
    }
    throughR *= weightR * again;
    throughG *= weightG * again;
    throughB *= weightB * again;
    if (guided || (sampleTransmitted && !samplePassed)) {
      expected *= max<f32>(1e-6, min<f32>(4, again * max(weightR, max(weightG, weightB))));
    }
    const s: f32 = sampleTransmitted ? -eps : eps;
    ox = px + gx * s;
    oy = py + gy * s;
    oz = pz + gz * s;
    if (samplePassed) {
      if (++passes > MOST_PASSES) return;
      travelled += distance;
      continue;
    }
    dx = x;
    dy = y;
    dz = z;
    straight = false;
    // A perfect mirror or lens cannot be met by light sampling; neither can a rough lobe where none was done.
    setVertex(px, py, pz, nx, ny, nz, smoothGlass ? <f32>0 : pdf);
    travelled = 0;
    if (sampleTransmitted && load<f32>(finish, FINISH_THIN) <= 0) {
      if (sampleEntered) enterMedium(scene, number, plain, UNDER_SURFACE);
      else if (inside) leaveMedium(scene, number);
      else enterMedium(scene, number, plain, INSIDE_GLASS);
    }
    bounces++;
    if (bounces > 3 && !aside && !survives()) return;
  }
}

let shineR: f32 = 0;
let shineG: f32 = 0;
let shineB: f32 = 0;
/** Whether a part gives light where it was met; its radiance then is in shineR, G, B. */
function shines(instance: usize, finish: usize, inside: bool, straight: bool): bool {
  const flags = load<u32>(instance, INSTANCE_FLAGS);
  if ((inside && !(flags & INSTANCE_TWO_SIDED)) || (straight && flags & INSTANCE_DARK_TO_CAMERA)) return false;
  shineR = load<f32>(instance, INSTANCE_EMISSION) * load<f32>(finish, FINISH_EMISSION);
  shineG = load<f32>(instance, INSTANCE_EMISSION + 4) * load<f32>(finish, FINISH_EMISSION + 4);
  shineB = load<f32>(instance, INSTANCE_EMISSION + 8) * load<f32>(finish, FINISH_EMISSION + 8);
  return shineR + shineG + shineB > 0;
}

/** Light layer of a part's light, by its number or -1. */
function groupOf(scene: usize, light: i32): u32 {
  return light >= 0 ? load<u32>(<usize>load<u32>(scene, SCENE_LIGHTS) + <usize>light * LIGHT_SIZE, LIGHT_GROUP) : 0;
}

function addEmission(r: f32, g: f32, b: f32): void {
  pathEmissionR += r;
  pathEmissionG += g;
  pathEmissionB += b;
}

/**
 * Adds what shines straight into the lens at a point of it where a guide lets it be expected. The camera's own ray counts the same
 * light with the rest of the weight.
 */
function addThroughLens(scene: usize): void {
  const choice = draw1();
  draw2();
  if (!chooseLensPoint(scene, choice, drawX, drawY) || !isOpen(scene, pointX, pointY)) return;
  aimThrough(pointX, pointY);
  const dx = directionX,
    dy = directionY,
    dz = directionZ;
  const w = lensWeight(scene, pointX, pointY);
  beginReach(w);
  let ox = originX,
    oy = originY,
    oz = originZ;
  let before: f32 = 0;
  for (let wall = 0; wall < MOST_PASSES; wall++) {
    const hit = trace(scene, ox, oy, oz, dx, dy, dz, 0, FAR, false);
    const at = hitT;
    const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
    const lamps = load<u32>(scene, SCENE_LAMPS);
    for (let k: u32 = 0; k < lamps; k++) {
      const light = lights + <usize>k * LIGHT_SIZE;
      if (!(load<u32>(light, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
      const t = lampAlong(light, ox, oy, oz, dx, dy, dz, at);
      if (t <= 0) continue;
      lampHit(light, ox, oy, oz, dx, dy, dz, t);
      addReached(load<u32>(light, LIGHT_GROUP), before + t, lampR, lampG, lampB);
    }
    if (!hit) return;
    before += at;
    openSurface(scene);
    const instance = surfaceInstance(scene);
    const finish = finishThere(scene, instance);
    const opacity = load<f32>(finish, FINISH_OPACITY);
    const inside = dx * flatX + dy * flatY + dz * flatZ > 0;
    if (shines(instance, finish, inside, true)) {
      addReached(
        groupOf(scene, load<i32>(instance, INSTANCE_LIGHT)),
        before,
        opacity * shineR,
        opacity * shineG,
        opacity * shineB,
      );
    }
    if (!passesThrough(finish, dx, dy, dz)) return;
    const away: f32 = inside ? surfaceLift(scene) : -surfaceLift(scene);
    ox = surfaceX + flatX * away;
    oy = surfaceY + flatY * away;
    oz = surfaceZ + flatZ * away;
  }
}

/**
 * Adds the lamps that a ray passes on its way to `end`. They have no body: the ray goes on, and what comes from behind them comes
 * through. `weight` is for rays straight from the camera.
 */
function meetLamps(
  scene: usize,
  ox: f32,
  oy: f32,
  oz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  end: f32,
  travelled: f32,
  straight: bool,
  weight: f32,
): void {
  // From fog, light samples have counted them all.
  if (vPdf < 0) return;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const lamps = load<u32>(scene, SCENE_LAMPS);
  for (let k: u32 = 0; k < lamps; k++) {
    const light = lights + <usize>k * LIGHT_SIZE;
    if (straight && !(load<u32>(light, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
    const t = lampAlong(light, ox, oy, oz, dx, dy, dz, end);
    if (t <= 0) continue;
    lampHit(light, vx, vy, vz, dx, dy, dz, travelled + t);
    let r = lampR,
      g = lampG,
      b = lampB;
    const w = straight ? weight : meetWeight(scene, <i32>k, lampPdf);
    transmit(t);
    r *= w * passR;
    g *= w * passG;
    b *= w * passB;
    add(load<u32>(light, LIGHT_GROUP), r, g, b);
    if (straight) {
      pathAlpha = 1;
      addEmission(r, g, b);
    }
  }
}

/** Adds light from a distance along a ray that carries what walls before it let pass. */
function addReached(group: u32, distance: f32, r: f32, g: f32, b: f32): void {
  transmit(distance);
  const x = r * reachR * passR,
    y = g * reachG * passG,
    z = b * reachB * passB;
  add(group, x, y, z);
  addEmission(x, y, z);
}

/** Ends dim paths by chance; what goes on carries more. */
function survives(): bool {
  const live = min<f32>(0.95, max(throughR, max(throughG, throughB)) / expected);
  if (draw1() >= live || !(live > 0)) return false;
  const inv = ONE / live;
  throughR *= inv;
  throughG *= inv;
  throughB *= inv;
  return true;
}

/** Adds the light sampled last, through the scattering evaluated last; `s` leads off the surface along its flat normal. */
function addSampled(
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
  const lx = lightX,
    ly = lightY,
    lz = lightZ;
  const distance = lightDistance,
    group = lightGroup;
  const w = lightShadowless ? lead / lightPdf : lead / (lightPdf + pdf);
  let lr = lightR * scatterR,
    lg = lightG * scatterG,
    lb = lightB * scatterB;
  if (lightInstance >= 0) {
    lampMap(scene);
    lr *= mapR;
    lg *= mapG;
    lb *= mapB;
  }
  const alone = ONE / lightPdf;
  const reached =
    lightShadowless || lightReaches(scene, px + gx * s, py + gy * s, pz + gz * s, lx, ly, lz, distance > 1e19);
  if (lightShadowless) {
    beginReach(1);
  }
  if (catches) {
    pathUnshaded += alone * (<f32>0.2126 * lr + <f32>0.7152 * lg + <f32>0.0722 * lb);
    if (reached) pathLit += alone * (<f32>0.2126 * lr * reachR + <f32>0.7152 * lg * reachG + <f32>0.0722 * lb * reachB);
  }
  if (!reached) return;
  transmit(distance);
  add(group, lr * w * reachR * passR, lg * w * reachG * passG, lb * w * reachB * passB);
}

/** Light that a vertex inside lit matter scatters, from a lamp in there. */
function lightInMedium(scene: usize, px: f32, py: f32, pz: f32, dx: f32, dy: f32, dz: f32, g: f32): void {
  openPlace(scene, px, py, pz, 0, 0, 0);
  if (!sampleLight(scene, draw1())) return;
  const value = phase(lightX * dx + lightY * dy + lightZ * dz, g);
  evaluatePhase(value, value, value);
  addSampled(scene, px, py, pz, 0, 0, 0, 0, value, false);
}

/**
 * Light that a vertex inside a cloudy lens scatters from a lamp outside of it: one more way, towards a guide, that no longer scatters in it. What goes on from the vertex finds the same light with the rest of the weight, see `lead`.
 */
function lightThroughLens(
  scene: usize,
  spare: f32,
  px: f32,
  py: f32,
  pz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  whole: f32,
  bounces: i32,
): void {
  const choice = draw1();
  draw2();
  chooseGuide(scene, choice, drawX, drawY);
  const x = guideX,
    y = guideY,
    z = guideZ;
  const own = phase(x * dx + y * dy + z * dz, mediumG);
  const weight = own / (own + guidePdf(scene, x, y, z));
  const r = throughR,
    g = throughG,
    b = throughB,
    e = expected,
    wave = nanometres;
  keepMedia();
  throughR *= weight;
  throughG *= weight;
  throughB *= weight;
  leadEnds = false;
  setVertex(px, py, pz, 0, 0, 0, 0);
  follow(scene, spare, px, py, pz, x, y, z, whole, bounces, true);
  throughR = r;
  throughG = g;
  throughB = b;
  expected = e;
  nanometres = wave;
  recallMedia(scene);
  lead = 1;
}

/** Light that fog scatters towards the ray's beginning, along the whole ray, from one light. */
function fogLight(scene: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, end: f32): void {
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

/** Where the camera's ray began on the picture, in pixels. */
let filmX: f32 = 0;
let filmY: f32 = 0;

/** The plate where the camera's ray began on the picture, as much of it as fills the frame. */
function lookUpPlate(scene: usize): void {
  const plate = <usize>load<u32>(scene, SCENE_BEHIND_PICTURE);
  const across = <f32>load<i32>(plate),
    down = <f32>load<i32>(plate, 4);
  const shownX = load<f32>(scene, SCENE_BEHIND_FIT),
    shownY = load<f32>(scene, SCENE_BEHIND_FIT + 4);
  // Half a pixel of the coarsest level that is read: nearer to an edge, what lies beyond would be blended in.
  const step = (shownY * down) / <f32>load<i32>(scene, SCENE_HEIGHT);
  const edge = max<f32>(0.5, step);
  const edgeX = min<f32>(0.5, edge / across),
    edgeY = min<f32>(0.5, edge / down);
  const u = <f32>0.5 + shownX * (filmX / <f32>load<i32>(scene, SCENE_WIDTH) - <f32>0.5);
  const v = <f32>0.5 + shownY * (filmY / <f32>load<i32>(scene, SCENE_HEIGHT) - <f32>0.5);
  lookUp(
    plate,
    max<f32>(edgeX, min<f32>(ONE - edgeX, u)),
    max<f32>(edgeY, min<f32>(ONE - edgeY, v)),
    step / max<f32>(across, down),
  );
}

function meetSurroundings(scene: usize, dx: f32, dy: f32, dz: f32, straight: bool): void {
  const behind = load<u32>(scene, SCENE_BEHIND);
  if (straight && behind === BEHIND_TRANSPARENT) return;
  if (straight) pathAlpha = 1;
  const lights = <usize>load<u32>(scene, SCENE_LIGHTS);
  const count = load<u32>(scene, SCENE_LIGHT_COUNT);
  const sky = count - 1;
  const group = load<u32>(lights + <usize>sky * LIGHT_SIZE, LIGHT_GROUP);
  if (straight && behind === BEHIND_COLOR) {
    add(
      group,
      load<f32>(scene, SCENE_BEHIND_COLOR),
      load<f32>(scene, SCENE_BEHIND_COLOR + 4),
      load<f32>(scene, SCENE_BEHIND_COLOR + 8),
    );
  } else if (straight && behind === BEHIND_PICTURE) {
    meetBehind(scene, dx, dy, dz);
    add(group, skyR, skyG, skyB);
  } else if (straight && behind === BEHIND_PLATE) {
    lookUpPlate(scene);
    add(
      group,
      load<f32>(scene, SCENE_BEHIND_COLOR) * texelR,
      load<f32>(scene, SCENE_BEHIND_COLOR + 4) * texelG,
      load<f32>(scene, SCENE_BEHIND_COLOR + 8) * texelB,
    );
  } else {
    if (straight && behind !== BEHIND_SURROUNDINGS) unreachable();
    meetSky(scene, dx, dy, dz);
    const r = skyR,
      g = skyG,
      b = skyB;
    const w = meetWeight(scene, <i32>sky, skyChosenPdf);
    add(group, r * w, g * w, b * w);
  }
  for (let k = load<u32>(scene, SCENE_LOCAL_LIGHTS); k < sky; k++) {
    if (straight && !(load<u32>(lights + <usize>k * LIGHT_SIZE, LIGHT_FLAGS) & LIGHT_SEEN)) continue;
    if (!sunAt(scene, k, dx, dy, dz)) continue;
    const r = lightR,
      g = lightG,
      b = lightB,
      sun = lightGroup;
    const w = meetWeight(scene, <i32>k, lightPdf);
    add(sun, r * w, g * w, b * w);
  }
}

/** Pixels that the point of the last hit moves until the next frame. */
function motionTo(scene: usize, instance: usize, fromX: f32, fromY: f32, px: f32, py: f32, pz: f32): void {
  const m = <usize>load<u32>(instance, INSTANCE_NEXT);
  let x = px,
    y = py,
    z = pz;
  if (m !== 0) {
    x = load<f32>(m) * objectX + load<f32>(m, 4) * objectY + load<f32>(m, 8) * objectZ + load<f32>(m, 12);
    y = load<f32>(m, 16) * objectX + load<f32>(m, 20) * objectY + load<f32>(m, 24) * objectZ + load<f32>(m, 28);
    z = load<f32>(m, 32) * objectX + load<f32>(m, 36) * objectY + load<f32>(m, 40) * objectZ + load<f32>(m, 44);
  }
  if (!projectNext(scene, x, y, z)) return;
  pathMotionX = pictureX - fromX;
  pathMotionY = pictureY - fromY;
}
