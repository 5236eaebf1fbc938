// One path from the camera: next-event estimation at every vertex, combined with hits of lights (vertex.ts).

import { turn, turnCosine, turnSine } from '../angle';
import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasis, makeBasisAlong, turnBasis } from '../basis';
import { directionX, directionY, directionZ, lensX, lensY, originX, originY, originZ } from '../camera';
import { isCut } from '../cut';
import { evaluateFinish, scatterB, scatterG, scatterPdf, scatterR } from '../finish/evaluate';
import { finishDisperses, finishIsSmoothGlass, finishIsWide, openFinish } from '../finish/opened';
import {
  sampleEntered,
  sampleFinish,
  samplePassed,
  samplePdf,
  sampleTransmitted,
  sampleX,
  sampleY,
  sampleZ,
  weighDirection,
  weightB,
  weightG,
  weightR,
} from '../finish/sample';
import { chooseGuide, guidePdf, guideX, guideY, guideZ, openGuides } from '../guide';
import { surfacePdf } from '../lamp';
import {
  CAMERA_TAN_X,
  FINISH_ANISOTROPY,
  FINISH_COAT_ANISOTROPY,
  FINISH_MAP_COUNT,
  FINISH_OPACITY,
  FINISH_ROTATION,
  FINISH_THIN,
  INSTANCE_CATCHER,
  INSTANCE_CATCHES,
  INSTANCE_FINISH,
  INSTANCE_FLAGS,
  INSTANCE_HIDES,
  INSTANCE_LIGHT,
  INSTANCE_UNMIRRORED,
  INSTANCE_UNSEEN,
  LAYER_OCCLUSION,
  LAYER_SHADOW,
  LINKS_SHIFT,
  SCENE_CAMERA,
  SCENE_DEPTH,
  SCENE_LAYERS,
  SCENE_SPECK,
  SCENE_WIDTH,
} from '../layout';
import { lensWeight, openLensGuides } from '../lensGuide';
import { lightInstance, lightX, lightY, lightZ, openPlace, sampleLight } from '../light';
import {
  enterMedium,
  extinctionB,
  extinctionG,
  extinctionR,
  INSIDE_GLASS,
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
  surroundingIndex,
  transmit,
  UNDER_SURFACE,
  within,
} from '../media';
import { phase, samplePhaseCosine } from '../medium';
import { openness } from '../openness';
import { keepPoint, pointOfVertex } from '../point';
import { draw1, draw2, drawX, drawY } from '../sampler';
import { disturbed, settleFinish } from '../shadow';
import {
  flatX,
  flatY,
  flatZ,
  openSurface,
  openTexture,
  smoothX,
  smoothY,
  smoothZ,
  surfaceArea,
  surfaceInstance,
  surfaceLift,
  surfaceX,
  surfaceY,
  surfaceZ,
  tangentX,
  tangentY,
  tangentZ,
} from '../surface';
import { mappedFinish } from '../map/stack';
import { hideParts, hitInstance, hitT, keepHit, recallHit, trace } from '../traverse';
import { isOnPlate, meetSurroundings, seePlateThere, seeThroughPart } from './behind';
import {
  carry,
  carryAll,
  expect,
  expected,
  nanometres,
  setCarried,
  setLimit,
  survives,
  takeApart,
  throughB,
  throughG,
  throughR,
} from './carried';
import { addThroughLens, emits, emittedB, emittedG, emittedR, groupOf, meetLamps } from './emission';
import { fogLight, lightInMedium } from './matter';
import { add, addEmission, beginOutputs, cover, keepAlbedo, keepFirst, setOpenness } from './outputs';
import { addShade, findShade, leaveUnshaded } from './plate';
import { openShadingNormal, shadingX, shadingY, shadingZ } from './shadingNormal';
import { exitX, exitY, exitZ, leaveSurface } from './subsurface';
import {
  addSampled,
  ALL_LINKS,
  byChance,
  lead,
  leadEnds,
  meetWeight,
  openVertices,
  setLead,
  setLinks,
  setVertex,
} from './vertex';

const ONE: f32 = 1;
const TWO: f32 = 2;
const FAR: f32 = 1e20;
/** Walls of thin glass a ray may pass on top of its bounces. */
const MOST_PASSES = 24;
/** Share of directions at a wide vertex that are tried towards guides. */
const GUIDED: f32 = 0.5;
/** Steps of a walk under a surface. */
const MOST_STEPS = 1024;

/** Follows the ray the camera has started. `spare` is a number from 0 to 1 for the wavelength. */
export function tracePath(scene: usize, spare: f32): void {
  beginOutputs(scene);
  carryAll();
  leaveAllMedia();
  openMedium(scene);
  openVertices(scene);
  const ox = originX,
    oy = originY,
    oz = originZ,
    dx = directionX,
    dy = directionY,
    dz = directionZ;
  startX = lensX;
  startY = lensY;
  if (openLensGuides(scene)) addThroughLens(scene);
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
  let viewing = !aside; // nothing but smooth glass lies between the camera and the ray
  let tinted = !aside; // the albedo layer has not met a surface yet that scatters
  let passes = 0,
    steps = 0;
  let first = !aside;
  let lit = false; // the ray left a part of the plate, whose light of lamps and surroundings is in the plate
  for (;;) {
    // Within a part its other side is always there.
    hideParts(within !== 0 ? 0 : viewing ? INSTANCE_UNSEEN : INSTANCE_UNMIRRORED);
    const hit = trace(scene, ox, oy, oz, dx, dy, dz, 0, FAR, false);
    const distance = hitT;
    if (!lit) {
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
    }
    // Light that air scatters onto the plate is in the plate: there air only takes away.
    if (mediumScatters && !aside && !(lit && mediumKind < 0)) {
      const end = min(distance, mediumReach);
      if (mediumKind < 0 && bounces < most && !byChance) {
        // What fog scatters is found by the path alone, so it counts whole.
        const led = lead,
          ends = leadEnds;
        setLead(1, ends);
        setLinks(ALL_LINKS);
        keepHit();
        fogLight(scene, ox, oy, oz, dx, dy, dz, end);
        recallHit();
        setLead(led, ends);
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
        carry(scatteringR * passR * inv, scatteringG * passG * inv, scatteringB * passB * inv);
        if (++steps > MOST_STEPS) return;
        if (mediumKind !== UNDER_SURFACE && ++bounces > most) return;
        if (straight) {
          cover(1);
          straight = false;
        }
        setLimit(load<f32>(scene, SCENE_SPECK));
        const px = ox + t * dx,
          py = oy + t * dy,
          pz = oz + t * dz;
        const g = mediumG;
        setLead(1, true);
        setLinks(ALL_LINKS);
        viewing = false;
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
          setLead(own / (own + guidePdf(scene, nx, ny, nz)), false);
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
      carry(passR * inv, passG * inv, passB * inv);
    } else if (hit || within === 0) {
      transmit(distance);
      carry(passR, passG, passB);
    }
    if (!hit) {
      if (!lit && (!aside || leadEnds)) meetSurroundings(scene, dx, dy, dz, straight);
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
    const cut = isCut(scene);
    const mapped = !cut && load<u32>(plain, FINISH_MAP_COUNT) !== 0;
    const turned = load<f32>(plain, FINISH_ANISOTROPY) !== 0 || load<f32>(plain, FINISH_COAT_ANISOTROPY) !== 0;
    if (mapped || turned) openTexture(scene);
    if (mapped) {
      keepPoint(
        scene,
        pointOfVertex,
        instance,
        (whole * cone) / max<f32>(0.1, abs(facing)),
        dx * smoothX + dy * smoothY + dz * smoothZ,
      );
      finish = mappedFinish(plain, pointOfVertex);
    }
    const opacity = load<f32>(finish, FINISH_OPACITY);
    const eps = surfaceLift(scene);
    if (cut || (opacity < 1 && draw1() >= opacity)) {
      if (++passes > MOST_PASSES) return;
      const away: f32 = inside ? eps : -eps;
      ox = surfaceX + flatX * away;
      oy = surfaceY + flatY * away;
      oz = surfaceZ + flatZ * away;
      travelled += distance;
      continue;
    }
    const ofPlate = (flags & (INSTANCE_HIDES | INSTANCE_CATCHES)) !== 0;
    const catching = (flags & INSTANCE_CATCHES) !== 0;
    if (ofPlate && !catching) {
      leaveUnshaded();
      if (straight) {
        seeThroughPart(scene, dx, dy, dz);
        return;
      }
      if (lit) return;
      if (isOnPlate(scene)) {
        seePlateThere(scene);
        return;
      }
    }
    if (!ofPlate && emits(instance, finish, inside, straight)) {
      const r = emittedR,
        g = emittedG,
        b = emittedB;
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
    openShadingNormal(finish, mapped, flip, dx, dy, dz);
    const nx = shadingX,
      ny = shadingY,
      nz = shadingZ;
    const px = surfaceX,
      py = surfaceY,
      pz = surfaceZ;
    if (first) {
      first = false;
      keepFirst(scene, instance, plain, whole, nx, ny, nz);
      if (straight && !catching) cover(1);
      if (layers & LAYER_OCCLUSION)
        setOpenness(openness(scene, px + gx * eps, py + gy * eps, pz + gz * eps, nx, ny, nz));
    }
    if (mediumKind === UNDER_SURFACE && mediumInstance === number && inside) {
      // Out again, to the side that the normal of the inside leads away from.
      leaveMedium(scene, number);
      if (++bounces > most) return;
      setLimit(load<f32>(scene, SCENE_SPECK));
      const ax = -gx,
        ay = -gy,
        az = -gz;
      setLinks(flags >> LINKS_SHIFT);
      leaveSurface(scene, finish, px, py, pz, ax, ay, az, eps);
      dx = exitX;
      dy = exitY;
      dz = exitZ;
      ox = px + ax * eps;
      oy = py + ay * eps;
      oz = pz + az * eps;
      travelled = 0;
      steps = 0;
      continue;
    }
    if (tinted) keepAlbedo(finish);
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
    // What is behind smooth glass is lit by what lights that.
    if (!smoothGlass) {
      setLinks(flags >> LINKS_SHIFT);
      tinted = false;
      if (leadEnds && aside) return;
      setLead(leadEnds ? <f32>1 : lead, true);
    }
    if (catching && lit) return;
    const shown = catching && (straight || isOnPlate(scene));
    if (shown) {
      findShade(scene, gx, gy, gz, eps);
      if (straight) seeThroughPart(scene, dx, dy, dz);
      else seePlateThere(scene);
      if (straight && (layers & LAYER_SHADOW) !== 0) addShade();
      // Light of the product that the part sends on to a mirror is left out.
      if (!straight) return;
      openFinish(finish, wx, wy, wz, inside, surround, nanometres);
      lit = true;
    } else if (load<f32>(finish, FINISH_THIN) <= 0) lit = false;
    const guided = !smoothGlass && finishIsWide() && openGuides(scene, px, py, pz, false);
    const share: f32 = guided ? GUIDED : 0;
    const catches = straight && !lit && (layers & LAYER_SHADOW) !== 0 && (flags & INSTANCE_CATCHER) !== 0;
    settleFinish();
    draw2();
    const pick = drawX;
    let choice = drawY;
    if (!smoothGlass) {
      if (bounces > 0) setLimit(load<f32>(scene, SCENE_SPECK));
      openPlace(scene, px, py, pz, nx, ny, nz);
      if (!byChance && sampleLight(scene, pick) && (!lit || lightInstance >= 0)) {
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
    carry(weightR * again, weightG * again, weightB * again);
    if (guided || (sampleTransmitted && !samplePassed)) {
      expect(max<f32>(1e-6, min<f32>(4, again * max(weightR, max(weightG, weightB)))));
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
    if (!smoothGlass || !sampleTransmitted) viewing = false;
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

/**
 * Light that a vertex inside a cloudy lens scatters from a lamp outside of it: one more way, towards a guide, that no longer
 * scatters in it. What goes on from the vertex finds the same light with the rest of the weight, see `lead`.
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
  carry(weight, weight, weight);
  setLead(lead, false);
  setVertex(px, py, pz, 0, 0, 0, 0);
  follow(scene, spare, px, py, pz, x, y, z, whole, bounces, true);
  setCarried(r, g, b, e, wave);
  recallMedia(scene);
  setLead(1, leadEnds);
}
