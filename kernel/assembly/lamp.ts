// Lamps of every shape: a point on one as seen from a place, the nearest one along a ray, and the density of having chosen it.

import { arc, arcOfCosine, turn, turnCosine, turnSine } from './angle';
import { basisXx, basisXy, basisXz, basisYx, basisYy, basisYz, makeBasis } from './basis';
import {
  INSTANCE_FLAGS,
  INSTANCE_MESH,
  INSTANCE_SIZE,
  INSTANCE_TO_WORLD,
  INSTANCE_TWO_SIDED,
  KIND_BULB,
  KIND_DISC,
  KIND_PANEL,
  KIND_PART,
  KIND_SPOT,
  KIND_SUN,
  KIND_TUBE,
  LIGHT_COS_INNER,
  LIGHT_COS_OUTER,
  LIGHT_EMISSION,
  LIGHT_GRADIENT,
  LIGHT_GRID,
  LIGHT_INSTANCE,
  LIGHT_KIND,
  LIGHT_NORMAL,
  LIGHT_POSITION,
  LIGHT_RADIUS,
  LIGHT_SOFT,
  LIGHT_X,
  LIGHT_Y,
  MESH_CDF,
  MESH_INDICES,
  MESH_POSITIONS,
  MESH_TRIANGLES,
  SCENE_INSTANCES,
} from './layout';
import { instanceMatrices } from './motion';
import { liftOffPlane, liftOverWay } from './surface';

const PI: f32 = 3.14159265358979;
const ONE: f32 = 1;
const TWO: f32 = 2;

/** Results of `sampleLamp`: unit direction, distance, radiance, density over solid angle without the choice of the lamp. */
export let lampX: f32 = 0;
export let lampY: f32 = 0;
export let lampZ: f32 = 0;
export let lampDistance: f32 = 0;
export let lampR: f32 = 0;
export let lampG: f32 = 0;
export let lampB: f32 = 0;
export let lampPdf: f32 = 0;
/** Where a shadow ray towards the sampled point ends: just in front of it. */
export let lampEndX: f32 = 0;
export let lampEndY: f32 = 0;
export let lampEndZ: f32 = 0;
/** Instance and triangle of a sampled part, and the place on it. */
export let lampTriangle: u32 = 0;
export let lampU: f32 = 0;
export let lampV: f32 = 0;

// Rectangle seen from a place: see openRectangle.
let rectangleSmall: f32 = 0;
let rectangleX0: f32 = 0;
let rectangleX1: f32 = 0;
let rectangleY0: f32 = 0;
let rectangleY1: f32 = 0;
let rectangleZ: f32 = 0;
let rectangleK: f32 = 0;
let rectangleB0: f32 = 0;
let rectangleB1: f32 = 0;
let rectangleAngle: f32 = 0;
let halfX: f32 = 0;
let halfY: f32 = 0;

function clampOne(v: f32): f32 {
  return max<f32>(-1, min<f32>(1, v));
}

/** Sum of the angles with two cosines, 0 to 2π: by the product of the complex numbers that have them as their angles. */
function sumOfArcs(a: f32, b: f32): f32 {
  const sineA = sqrt<f32>(max<f32>(0, ONE - a * a)),
    sineB = sqrt<f32>(max<f32>(0, ONE - b * b));
  const angle = arc(sineA * b + a * sineB, a * b - sineA * sineB);
  return angle < 0 || (angle === 0 && a < 0) ? angle + TWO * PI : angle;
}

/**
 * Solid angle of a lamp's rectangle from (px, py, pz), with what is needed to choose from it (Ureña, Fajardo and King, An
 * Area-Preserving Parametrization for Spherical Rectangles, 2013). False where it is seen from behind.
 */
function openRectangle(light: usize, px: f32, py: f32, pz: f32): bool {
  const dx = load<f32>(light, LIGHT_POSITION) - px,
    dy = load<f32>(light, LIGHT_POSITION + 4) - py,
    dz = load<f32>(light, LIGHT_POSITION + 8) - pz;
  const nx = load<f32>(light, LIGHT_NORMAL),
    ny = load<f32>(light, LIGHT_NORMAL + 4),
    nz = load<f32>(light, LIGHT_NORMAL + 8);
  const z = dx * nx + dy * ny + dz * nz;
  if (z >= -1e-5) return false;
  const ax = load<f32>(light, LIGHT_X),
    ay = load<f32>(light, LIGHT_X + 4),
    az = load<f32>(light, LIGHT_X + 8);
  const bx = load<f32>(light, LIGHT_Y),
    by = load<f32>(light, LIGHT_Y + 4),
    bz = load<f32>(light, LIGHT_Y + 8);
  halfX = sqrt<f32>(ax * ax + ay * ay + az * az);
  halfY = sqrt<f32>(bx * bx + by * by + bz * bz);
  const x = (dx * ax + dy * ay + dz * az) / halfX,
    y = (dx * bx + dy * by + dz * bz) / halfY;
  rectangleX0 = x - halfX;
  rectangleX1 = x + halfX;
  rectangleY0 = y - halfY;
  rectangleY1 = y + halfY;
  rectangleZ = z;
  // The part along z of the normals of the four planes through the place and the edges.
  const z2 = z * z;
  const m0 = -rectangleY0 / sqrt<f32>(z2 + rectangleY0 * rectangleY0),
    m1 = rectangleX1 / sqrt<f32>(z2 + rectangleX1 * rectangleX1);
  const m2 = rectangleY1 / sqrt<f32>(z2 + rectangleY1 * rectangleY1),
    m3 = -rectangleX0 / sqrt<f32>(z2 + rectangleX0 * rectangleX0);
  rectangleB0 = m0;
  rectangleB1 = m2;
  rectangleK = TWO * PI - sumOfArcs(-m2 * m3, -m3 * m0);
  rectangleAngle = sumOfArcs(-m0 * m1, -m1 * m2) - rectangleK;
  // Far or small: differences of angles have no digits left, and area over squared distance is as good.
  const d2 = x * x + y * y + z2;
  rectangleSmall = (halfX * halfY * 4 * -z) / (d2 * sqrt<f32>(d2));
  return true;
}

const SMALL_ANGLE: f32 = 0.004;

/** Density over solid angle with which `sampleRectangle` meets a point of the lamp. */
function rectanglePdf(distance2: f32, cosine: f32): f32 {
  if (rectangleSmall < SMALL_ANGLE || !(rectangleAngle > SMALL_ANGLE * 0.5))
    return distance2 / max<f32>(1e-12, cosine * 4 * halfX * halfY);
  return ONE / rectangleAngle;
}

let placeA: f32 = 0;
let placeB: f32 = 0;
/** A point of the rectangle, each coordinate from -1 to 1, into placeA and placeB. */
function sampleRectangle(u: f32, v: f32): void {
  if (rectangleSmall < SMALL_ANGLE || !(rectangleAngle > SMALL_ANGLE * 0.5)) {
    placeA = TWO * u - 1;
    placeB = TWO * v - 1;
    return;
  }
  const au = u * rectangleAngle + rectangleK;
  turn(au / (TWO * PI));
  const fu = (turnCosine * rectangleB0 - rectangleB1) / turnSine;
  let cu: f32 = (fu > 0 ? <f32>1 : <f32>-1) / sqrt<f32>(fu * fu + rectangleB0 * rectangleB0);
  cu = clampOne(cu);
  const z = rectangleZ;
  let x = (-cu * z) / max<f32>(1e-6, sqrt<f32>(ONE - cu * cu));
  x = max(rectangleX0, min(rectangleX1, x));
  const d2 = x * x + z * z;
  const d = sqrt<f32>(d2);
  const h0 = rectangleY0 / sqrt<f32>(d2 + rectangleY0 * rectangleY0),
    h1 = rectangleY1 / sqrt<f32>(d2 + rectangleY1 * rectangleY1);
  const h = h0 + v * (h1 - h0);
  const h2 = h * h;
  const y: f32 = h2 < 0.999999 ? (h * d) / sqrt<f32>(ONE - h2) : rectangleY1;
  placeA = (TWO * (x - rectangleX0)) / (rectangleX1 - rectangleX0) - 1;
  placeB = clampOne((TWO * (y - rectangleY0)) / (rectangleY1 - rectangleY0) - 1);
}

/** Smoothly from 0 to 1. */
function fade(x: f32): f32 {
  const t = max<f32>(0, min<f32>(1, x));
  return t * t * (<f32>3 - TWO * t);
}

/** Radiance of a flat lamp at a place on it, under the cosine from its normal, into lampR, G, B. */
function flatRadiance(light: usize, a: f32, b: f32, cosine: f32): void {
  let k: f32 = ONE - load<f32>(light, LIGHT_GRADIENT) * <f32>0.5 * (a * a + b * b);
  const edge = load<f32>(light, LIGHT_SOFT);
  if (edge > 0) {
    if (load<i32>(light, LIGHT_KIND) === KIND_PANEL) k *= fade((ONE - abs(a)) / edge) * fade((ONE - abs(b)) / edge);
    else k *= fade((ONE - sqrt<f32>(a * a + b * b)) / edge);
  }
  if (load<i32>(light, LIGHT_KIND) === KIND_SPOT) {
    const inner = load<f32>(light, LIGHT_COS_INNER),
      outer = load<f32>(light, LIGHT_COS_OUTER);
    const t = max<f32>(0, min<f32>(1, (cosine - outer) / max<f32>(1e-5, inner - outer)));
    k *= t * t * (<f32>3 - TWO * t);
    const grid = load<f32>(light, LIGHT_GRID);
    if (grid > 0) {
      // A cell of the grid is a tube: what its far end leaves open is where two circles cover each other.
      const shift = sqrt<f32>(max<f32>(0, ONE - cosine * cosine)) / max<f32>(1e-4, cosine) / grid;
      k *= shift >= 1 ? <f32>0 : (TWO / PI) * (arcOfCosine(shift) - shift * sqrt<f32>(ONE - shift * shift));
    }
  }
  lampR = k * load<f32>(light, LIGHT_EMISSION);
  lampG = k * load<f32>(light, LIGHT_EMISSION + 4);
  lampB = k * load<f32>(light, LIGHT_EMISSION + 8);
}

/** Sets where a shadow ray ends: the sampled point, lifted along a normal that leads off it. */
function endShadowRay(
  px: f32,
  py: f32,
  pz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  nx: f32,
  ny: f32,
  nz: f32,
  lift: f32,
): void {
  lampEndX = px + dx + nx * lift;
  lampEndY = py + dy + ny * lift;
  lampEndZ = pz + dz + nz * lift;
}

function evenRadiance(light: usize): void {
  lampR = load<f32>(light, LIGHT_EMISSION);
  lampG = load<f32>(light, LIGHT_EMISSION + 4);
  lampB = load<f32>(light, LIGHT_EMISSION + 8);
}

/** Chooses a point on a lamp or part as seen from (px, py, pz). False where nothing shines this way. */
export function sampleLamp(scene: usize, light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32): bool {
  const kind = load<i32>(light, LIGHT_KIND);
  if (kind === KIND_BULB) return sampleBulb(light, px, py, pz, u, v);
  if (kind === KIND_TUBE) return sampleTube(light, px, py, pz, u, v);
  if (kind === KIND_SUN) return sampleSun(light, u, v);
  if (kind === KIND_PART) return samplePart(scene, light, px, py, pz, u, v);
  requireFlat(kind);
  return sampleFlat(light, px, py, pz, u, v);
}

/** Ends the render where a lamp is of a kind that is none of those with one shining side: one that the kernel does not know. */
function requireFlat(kind: i32): void {
  if (kind !== KIND_PANEL && kind !== KIND_DISC && kind !== KIND_SPOT) unreachable();
}

function sampleFlat(light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32): bool {
  if (!openRectangle(light, px, py, pz)) return false;
  sampleRectangle(u, v);
  // Discs are chosen from the square about them: what misses them adds nothing.
  if (load<i32>(light, LIGHT_KIND) !== KIND_PANEL && placeA * placeA + placeB * placeB > 1) return false;
  const ax = load<f32>(light, LIGHT_X),
    ay = load<f32>(light, LIGHT_X + 4),
    az = load<f32>(light, LIGHT_X + 8);
  const bx = load<f32>(light, LIGHT_Y),
    by = load<f32>(light, LIGHT_Y + 4),
    bz = load<f32>(light, LIGHT_Y + 8);
  const dx = load<f32>(light, LIGHT_POSITION) + placeA * ax + placeB * bx - px;
  const dy = load<f32>(light, LIGHT_POSITION + 4) + placeA * ay + placeB * by - py;
  const dz = load<f32>(light, LIGHT_POSITION + 8) + placeA * az + placeB * bz - pz;
  const d2 = dx * dx + dy * dy + dz * dz;
  const d = sqrt<f32>(d2);
  lampX = dx / d;
  lampY = dy / d;
  lampZ = dz / d;
  lampDistance = d;
  const cosine = -(
    lampX * load<f32>(light, LIGHT_NORMAL) +
    lampY * load<f32>(light, LIGHT_NORMAL + 4) +
    lampZ * load<f32>(light, LIGHT_NORMAL + 8)
  );
  if (cosine <= 1e-5) return false;
  lampPdf = rectanglePdf(d2, cosine);
  // A lamp may lie on a wall.
  const nx = load<f32>(light, LIGHT_NORMAL),
    ny = load<f32>(light, LIGHT_NORMAL + 4),
    nz = load<f32>(light, LIGHT_NORMAL + 8);
  endShadowRay(px, py, pz, dx, dy, dz, nx, ny, nz, liftOverWay(px, py, pz, d));
  flatRadiance(light, placeA, placeB, cosine);
  return true;
}

/** Sets a direction in a cone about (zx, zy, zz); `spread` is one minus the cosine of its half angle. */
export function sampleCone(zx: f32, zy: f32, zz: f32, spread: f32, u: f32, v: f32): void {
  const oneLess = u * spread; // 1 - cos, which keeps its digits for a narrow cone
  const cosine = ONE - oneLess;
  const sine = sqrt<f32>(max<f32>(0, oneLess * (TWO - oneLess)));
  turn(v);
  makeBasis(zx, zy, zz);
  const a = sine * turnCosine,
    b = sine * turnSine;
  lampX = a * basisXx + b * basisYx + cosine * zx;
  lampY = a * basisXy + b * basisYy + cosine * zy;
  lampZ = a * basisXz + b * basisYz + cosine * zz;
}

/** Uniform over the cone in which a sphere is seen (Shirley, Wang and Zimmerman, Monte Carlo Techniques for Direct Lighting, 1996). */
function sampleBulb(light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32): bool {
  const cx = load<f32>(light, LIGHT_POSITION) - px,
    cy = load<f32>(light, LIGHT_POSITION + 4) - py,
    cz = load<f32>(light, LIGHT_POSITION + 8) - pz;
  const radius = load<f32>(light, LIGHT_RADIUS);
  const d2 = cx * cx + cy * cy + cz * cz;
  if (d2 <= radius * radius * 1.0001) return false;
  const d = sqrt<f32>(d2);
  const spread = sphereSpread(radius, d2);
  sampleCone(cx / d, cy / d, cz / d, spread, u, v);
  const oneLess = u * spread;
  const sine2 = oneLess * (TWO - oneLess);
  lampDistance = d * (ONE - oneLess) - sqrt<f32>(max<f32>(0, radius * radius - d2 * sine2));
  endShadowRay(px, py, pz, lampX * lampDistance, lampY * lampDistance, lampZ * lampDistance, 0, 0, 0, 0);
  lampPdf = ONE / (TWO * PI * spread);
  evenRadiance(light);
  return true;
}

/** One minus the cosine of the half angle under which a sphere is seen. */
export function sphereSpread(radius: f32, d2: f32): f32 {
  const s2 = (radius * radius) / d2;
  return s2 >= 1 ? <f32>2 : s2 / (ONE + sqrt<f32>(max<f32>(0, ONE - s2)));
}

// A tube seen from a place: along its axis from the foot of the perpendicular, and across.
let tubeAlong: f32 = 0;
let tubeHalf: f32 = 0;
let tubeAway: f32 = 0;
let tubeRadius: f32 = 0;
let tubeLow: f32 = 0;
let tubeHigh: f32 = 0;
let tubeArc: f32 = 0;
let axisX: f32 = 0;
let axisY: f32 = 0;
let axisZ: f32 = 0;
let outX: f32 = 0;
let outY: f32 = 0;
let outZ: f32 = 0;

/** False within the tube or on its axis. */
function openTube(light: usize, px: f32, py: f32, pz: f32): bool {
  const ax = load<f32>(light, LIGHT_X),
    ay = load<f32>(light, LIGHT_X + 4),
    az = load<f32>(light, LIGHT_X + 8);
  tubeHalf = sqrt<f32>(ax * ax + ay * ay + az * az);
  axisX = ax / tubeHalf;
  axisY = ay / tubeHalf;
  axisZ = az / tubeHalf;
  const dx = px - load<f32>(light, LIGHT_POSITION),
    dy = py - load<f32>(light, LIGHT_POSITION + 4),
    dz = pz - load<f32>(light, LIGHT_POSITION + 8);
  tubeAlong = dx * axisX + dy * axisY + dz * axisZ;
  outX = dx - tubeAlong * axisX;
  outY = dy - tubeAlong * axisY;
  outZ = dz - tubeAlong * axisZ;
  tubeAway = sqrt<f32>(outX * outX + outY * outY + outZ * outZ);
  tubeRadius = load<f32>(light, LIGHT_RADIUS);
  if (tubeAway <= tubeRadius * 1.0005) return false;
  outX /= tubeAway;
  outY /= tubeAway;
  outZ /= tubeAway;
  // The visible half is chosen round the axis evenly, along it evenly in angle as seen from the place (Kulla and Fajardo, 2012).
  tubeArc = arcOfCosine(tubeRadius / tubeAway);
  const near = tubeAway - tubeRadius;
  tubeLow = arc(-tubeHalf - tubeAlong, near);
  tubeHigh = arc(tubeHalf - tubeAlong, near);
  return tubeHigh > tubeLow;
}

function tubeDensity(along: f32): f32 {
  const near = tubeAway - tubeRadius;
  const s = along - tubeAlong;
  return near / ((tubeHigh - tubeLow) * (near * near + s * s) * TWO * tubeArc * tubeRadius);
}

function sampleTube(light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32): bool {
  if (!openTube(light, px, py, pz)) return false;
  const along = tubeAlong + (tubeAway - tubeRadius) * Mathf.tan(tubeLow + u * (tubeHigh - tubeLow));
  turn(((TWO * v - 1) * tubeArc) / (TWO * PI));
  const c = turnCosine,
    s = turnSine;
  const tx = axisY * outZ - axisZ * outY,
    ty = axisZ * outX - axisX * outZ,
    tz = axisX * outY - axisY * outX;
  const nx = c * outX + s * tx,
    ny = c * outY + s * ty,
    nz = c * outZ + s * tz;
  const dx = load<f32>(light, LIGHT_POSITION) + along * axisX + tubeRadius * nx - px;
  const dy = load<f32>(light, LIGHT_POSITION + 4) + along * axisY + tubeRadius * ny - py;
  const dz = load<f32>(light, LIGHT_POSITION + 8) + along * axisZ + tubeRadius * nz - pz;
  const d2 = dx * dx + dy * dy + dz * dz;
  const d = sqrt<f32>(d2);
  lampX = dx / d;
  lampY = dy / d;
  lampZ = dz / d;
  lampDistance = d;
  const cosine = -(lampX * nx + lampY * ny + lampZ * nz);
  if (cosine <= 1e-5) return false;
  lampPdf = (tubeDensity(along) * d2) / cosine;
  endShadowRay(px, py, pz, dx, dy, dz, 0, 0, 0, 0);
  evenRadiance(light);
  return true;
}

function sampleSun(light: usize, u: f32, v: f32): bool {
  const spread = ONE - load<f32>(light, LIGHT_COS_OUTER);
  sampleCone(
    load<f32>(light, LIGHT_NORMAL),
    load<f32>(light, LIGHT_NORMAL + 4),
    load<f32>(light, LIGHT_NORMAL + 8),
    spread,
    u,
    v,
  );
  lampDistance = 1e20;
  lampPdf = ONE / (TWO * PI * spread);
  evenRadiance(light);
  return true;
}

function samplePart(scene: usize, light: usize, px: f32, py: f32, pz: f32, u: f32, v: f32): bool {
  const instance = <usize>load<u32>(scene, SCENE_INSTANCES) + <usize>load<u32>(light, LIGHT_INSTANCE) * INSTANCE_SIZE;
  const mesh = <usize>load<u32>(instance, INSTANCE_MESH);
  const cdf = <usize>load<u32>(mesh, MESH_CDF);
  const triangles = load<u32>(mesh, MESH_TRIANGLES);
  let low: u32 = 0;
  let high: u32 = triangles - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (load<f32>(cdf + ((<usize>middle) << 2)) <= u) low = middle + 1;
    else high = middle;
  }
  const before: f32 = low > 0 ? load<f32>(cdf + ((<usize>(low - 1)) << 2)) : 0;
  const span = load<f32>(cdf + ((<usize>low) << 2)) - before;
  const again: f32 = span > 0 ? min<f32>(0.9999999, (u - before) / span) : 0;
  const root = sqrt<f32>(again);
  const b1 = ONE - root,
    b2 = v * root;
  lampTriangle = low;
  // Weights of the second and third corner, as a ray's hit has them.
  lampU = b1;
  lampV = b2;
  const positions = <usize>load<u32>(mesh, MESH_POSITIONS);
  const index = <usize>load<u32>(mesh, MESH_INDICES) + <usize>low * 12;
  const p0 = positions + <usize>load<u32>(index) * 12,
    p1 = positions + <usize>load<u32>(index, 4) * 12,
    p2 = positions + <usize>load<u32>(index, 8) * 12;
  const e1x = load<f32>(p1) - load<f32>(p0),
    e1y = load<f32>(p1, 4) - load<f32>(p0, 4),
    e1z = load<f32>(p1, 8) - load<f32>(p0, 8);
  const e2x = load<f32>(p2) - load<f32>(p0),
    e2y = load<f32>(p2, 4) - load<f32>(p0, 4),
    e2z = load<f32>(p2, 8) - load<f32>(p0, 8);
  const x = load<f32>(p0) + e1x * b1 + e2x * b2,
    y = load<f32>(p0, 4) + e1y * b1 + e2y * b2,
    z = load<f32>(p0, 8) + e1z * b1 + e2z * b2;
  const matrices = instanceMatrices(scene, instance);
  const m = matrices + INSTANCE_TO_WORLD;
  // Edges go to the world and are crossed there: right for any scale, mirrored ones included.
  const a1x = load<f32>(m) * e1x + load<f32>(m, 4) * e1y + load<f32>(m, 8) * e1z;
  const a1y = load<f32>(m, 16) * e1x + load<f32>(m, 20) * e1y + load<f32>(m, 24) * e1z;
  const a1z = load<f32>(m, 32) * e1x + load<f32>(m, 36) * e1y + load<f32>(m, 40) * e1z;
  const a2x = load<f32>(m) * e2x + load<f32>(m, 4) * e2y + load<f32>(m, 8) * e2z;
  const a2y = load<f32>(m, 16) * e2x + load<f32>(m, 20) * e2y + load<f32>(m, 24) * e2z;
  const a2z = load<f32>(m, 32) * e2x + load<f32>(m, 36) * e2y + load<f32>(m, 40) * e2z;
  const nx = a1y * a2z - a1z * a2y,
    ny = a1z * a2x - a1x * a2z,
    nz = a1x * a2y - a1y * a2x;
  const size = sqrt<f32>(nx * nx + ny * ny + nz * nz);
  if (!(size > 1e-20) || !(span > 0)) return false;
  const qx = load<f32>(m) * x + load<f32>(m, 4) * y + load<f32>(m, 8) * z + load<f32>(m, 12);
  const qy = load<f32>(m, 16) * x + load<f32>(m, 20) * y + load<f32>(m, 24) * z + load<f32>(m, 28);
  const qz = load<f32>(m, 32) * x + load<f32>(m, 36) * y + load<f32>(m, 40) * z + load<f32>(m, 44);
  const dx = qx - px,
    dy = qy - py,
    dz = qz - pz;
  const d2 = dx * dx + dy * dy + dz * dz;
  if (!(d2 > 1e-12)) return false;
  const d = sqrt<f32>(d2);
  lampX = dx / d;
  lampY = dy / d;
  lampZ = dz / d;
  lampDistance = d;
  let cosine = -(lampX * nx + lampY * ny + lampZ * nz) / size;
  const side: f32 = cosine < 0 ? -1 : 1;
  if (load<u32>(instance, INSTANCE_FLAGS) & INSTANCE_TWO_SIDED) cosine = abs(cosine);
  if (cosine <= 1e-5) return false;
  const ux = (side * nx) / size,
    uy = (side * ny) / size,
    uz = (side * nz) / size;
  const lift = liftOffPlane(matrices, p0, p1, p2, qx, qy, qz, ux, uy, uz) + liftOverWay(px, py, pz, d);
  endShadowRay(qx, qy, qz, 0, 0, 0, ux, uy, uz, lift);
  // Chosen by area in the part's own space; the world area of this triangle over its chance is what the density needs.
  lampPdf = (d2 * span) / (cosine * <f32>0.5 * size);
  evenRadiance(light);
  return true;
}

/** Density with which `sampleLamp` meets a hit on a part, for a unit scale: distance² over cosine and whole area. */
export function surfacePdf(distance: f32, cosine: f32, area: f32): f32 {
  return (distance * distance) / max<f32>(1e-12, cosine * area);
}

/** Distance along a ray at which it passes a lamp's shining side before `nearest`, 0 where it does not. */
export function lampAlong(light: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, nearest: f32): f32 {
  const kind = load<i32>(light, LIGHT_KIND);
  const px = load<f32>(light, LIGHT_POSITION) - ox,
    py = load<f32>(light, LIGHT_POSITION + 4) - oy,
    pz = load<f32>(light, LIGHT_POSITION + 8) - oz;
  if (kind === KIND_BULB) {
    const radius = load<f32>(light, LIGHT_RADIUS);
    const along = px * dx + py * dy + pz * dz;
    const cx = px - along * dx,
      cy = py - along * dy,
      cz = pz - along * dz;
    const h2 = radius * radius - (cx * cx + cy * cy + cz * cz);
    if (h2 <= 0) return 0;
    const t = along - sqrt<f32>(h2);
    return t > 0 && t < nearest ? t : <f32>0;
  }
  if (kind === KIND_TUBE) {
    const t = hitTube(light, px, py, pz, dx, dy, dz);
    return t > 0 && t < nearest ? t : <f32>0;
  }
  requireFlat(kind);
  const nx = load<f32>(light, LIGHT_NORMAL),
    ny = load<f32>(light, LIGHT_NORMAL + 4),
    nz = load<f32>(light, LIGHT_NORMAL + 8);
  const cosine = dx * nx + dy * ny + dz * nz;
  if (cosine > -1e-6) return 0;
  const t = (px * nx + py * ny + pz * nz) / cosine;
  // A lamp may lie on a wall: light samples end as far before it.
  if (!(t > 0 && t < nearest - liftOverWay(ox, oy, oz, t) / cosine)) return 0;
  const hx = t * dx - px,
    hy = t * dy - py,
    hz = t * dz - pz;
  const ax = load<f32>(light, LIGHT_X),
    ay = load<f32>(light, LIGHT_X + 4),
    az = load<f32>(light, LIGHT_X + 8);
  const bx = load<f32>(light, LIGHT_Y),
    by = load<f32>(light, LIGHT_Y + 4),
    bz = load<f32>(light, LIGHT_Y + 8);
  const a = (hx * ax + hy * ay + hz * az) / (ax * ax + ay * ay + az * az);
  const b = (hx * bx + hy * by + hz * bz) / (bx * bx + by * by + bz * bz);
  return (kind === KIND_PANEL ? abs(a) > 1 || abs(b) > 1 : a * a + b * b > 1) ? <f32>0 : t;
}

/** Distance to the outside of a tube, 0 for none. */
function hitTube(light: usize, px: f32, py: f32, pz: f32, dx: f32, dy: f32, dz: f32): f32 {
  const ax = load<f32>(light, LIGHT_X),
    ay = load<f32>(light, LIGHT_X + 4),
    az = load<f32>(light, LIGHT_X + 8);
  const half2 = ax * ax + ay * ay + az * az;
  const radius = load<f32>(light, LIGHT_RADIUS);
  const dAlong = (dx * ax + dy * ay + dz * az) / half2,
    pAlong = (px * ax + py * ay + pz * az) / half2;
  const ex = dx - dAlong * ax,
    ey = dy - dAlong * ay,
    ez = dz - dAlong * az;
  const qx = px - pAlong * ax,
    qy = py - pAlong * ay,
    qz = pz - pAlong * az;
  const a = ex * ex + ey * ey + ez * ez;
  if (!(a > 1e-12)) return 0;
  const middle = (ex * qx + ey * qy + ez * qz) / a;
  const fx = qx - middle * ex,
    fy = qy - middle * ey,
    fz = qz - middle * ez;
  const h2 = radius * radius - (fx * fx + fy * fy + fz * fz);
  if (h2 <= 0) return 0;
  const t = middle - sqrt<f32>(h2 / a);
  return abs(t * dAlong - pAlong) <= 1 ? t : 0;
}

/** Radiance of a lamp that was hit into lampR, G, B, and the density with which `sampleLamp` from (px, py, pz) meets the hit. */
export function lampHit(light: usize, px: f32, py: f32, pz: f32, dx: f32, dy: f32, dz: f32, distance: f32): void {
  const kind = load<i32>(light, LIGHT_KIND);
  const x = px - load<f32>(light, LIGHT_POSITION),
    y = py - load<f32>(light, LIGHT_POSITION + 4),
    z = pz - load<f32>(light, LIGHT_POSITION + 8);
  if (kind === KIND_BULB) {
    evenRadiance(light);
    lampPdf = ONE / (TWO * PI * max<f32>(1e-12, sphereSpread(load<f32>(light, LIGHT_RADIUS), x * x + y * y + z * z)));
    return;
  }
  const hx = x + distance * dx,
    hy = y + distance * dy,
    hz = z + distance * dz;
  if (kind === KIND_TUBE) {
    evenRadiance(light);
    lampPdf = 0;
    if (!openTube(light, px, py, pz)) return;
    const along = hx * axisX + hy * axisY + hz * axisZ;
    const cosine = -(dx * (hx - along * axisX) + dy * (hy - along * axisY) + dz * (hz - along * axisZ)) / tubeRadius;
    lampPdf = (tubeDensity(along) * distance * distance) / max<f32>(1e-6, cosine);
    return;
  }
  requireFlat(kind);
  const cosine = -(
    dx * load<f32>(light, LIGHT_NORMAL) +
    dy * load<f32>(light, LIGHT_NORMAL + 4) +
    dz * load<f32>(light, LIGHT_NORMAL + 8)
  );
  lampPdf = openRectangle(light, px, py, pz) ? rectanglePdf(distance * distance, cosine) : <f32>0;
  const a =
    (hx * load<f32>(light, LIGHT_X) + hy * load<f32>(light, LIGHT_X + 4) + hz * load<f32>(light, LIGHT_X + 8)) /
    (halfX * halfX);
  const b =
    (hx * load<f32>(light, LIGHT_Y) + hy * load<f32>(light, LIGHT_Y + 4) + hz * load<f32>(light, LIGHT_Y + 8)) /
    (halfY * halfY);
  flatRadiance(light, a, b, cosine);
}
