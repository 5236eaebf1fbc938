// Rays against the two-level scene. Boxes are tested eight at a time, triangles four at a time with the watertight test of
// Woop, Benthin and Wald (Watertight Ray/Triangle Intersection, 2013).

import {
  BLOCK_TRIANGLE,
  INSTANCE_FLAGS,
  INSTANCE_MESH,
  INSTANCE_SIZE,
  LEAF,
  LEAF_SHIFT,
  MESH_ROOT,
  NODE_CHILD,
  SCENE_INSTANCES,
  SCENE_ROOT,
  SCRATCH_MESH_STACK,
} from './layout';
import { instanceMatrices } from './motion';

/** The nearest hit found so far; `hitInstance` is -1 while there is none. */
export let hitT: f32 = 0;
export let hitU: f32 = 0;
export let hitV: f32 = 0;
export let hitTriangle: u32 = 0;
export let hitInstance: i32 = -1;

// A hit that is put aside while other rays are traced: see `keepHit`.
let keptT: f32 = 0;
let keptU: f32 = 0;
let keptV: f32 = 0;
let keptTriangle: u32 = 0;
let keptInstance: i32 = -1;

/** Takes a place of a part for the last hit: weights of the triangle's second and third corner. */
export function setHit(instance: i32, triangle: u32, u: f32, v: f32): void {
  hitInstance = instance;
  hitTriangle = triangle;
  hitU = u;
  hitV = v;
}

/** Puts the last hit aside, as any other ray that is traced takes its place. */
export function keepHit(): void {
  keptT = hitT;
  keptU = hitU;
  keptV = hitV;
  keptTriangle = hitTriangle;
  keptInstance = hitInstance;
}

/** Makes the hit that was put aside the last one again. */
export function recallHit(): void {
  hitT = keptT;
  hitU = keptU;
  hitV = keptV;
  hitTriangle = keptTriangle;
  hitInstance = keptInstance;
}

let stackTop: usize = 0;
let stackMesh: usize = 0;
/** Room for the distances at which a ray enters the eight children of a node. */
let entryDistances: usize = 0;

/** Gives this worker its private traversal stacks: SCRATCH_SIZE bytes. */
export function setTraversalScratch(at: usize): void {
  stackTop = at;
  stackMesh = at + SCRATCH_MESH_STACK;
  entryDistances = at + SCRATCH_MESH_STACK - 32;
}

// Rounding of (plane - origin) / direction can push an exit before an entry at a shared edge: exits move out by 3 ulp
// (Ize, Robust BVH Ray Traversal, 2013).
const EXIT_SLACK: f32 = 1.0000004;

function reciprocal(d: f32): f32 {
  return <f32>1 / (abs(d) < 1e-18 ? (d < 0 ? <f32>-1e-18 : <f32>1e-18) : d);
}

/** Flags of instances that the next rays go through. */
let hidden: u32 = 0;
/** What `trace` leaves out from here on: parts with one of these flags. */
export function hideParts(flags: u32): void {
  hidden = flags;
}

/** Nearest hit along a ray, or any hit where `any` is set. Direction need not have unit length; t counts in its lengths. */
export function trace(
  scene: usize,
  ox: f32,
  oy: f32,
  oz: f32,
  dx: f32,
  dy: f32,
  dz: f32,
  tMin: f32,
  tMax: f32,
  any: bool,
): bool {
  hitT = tMax;
  hitInstance = -1;
  const instances = <usize>load<u32>(scene + SCENE_INSTANCES);
  let word = load<u32>(scene + SCENE_ROOT);
  let ix: f32 = 0,
    iy: f32 = 0,
    iz: f32 = 0;
  if (!(word & (<u32>LEAF))) {
    // A scene of one part has no tree above it, and needs none of these.
    ix = reciprocal(dx);
    iy = reciprocal(dy);
    iz = reciprocal(dz);
  }
  const nearX: usize = ix < 0 ? 32 : 0,
    nearY: usize = iy < 0 ? 96 : 64,
    nearZ: usize = iz < 0 ? 160 : 128;
  const farX: usize = 32 - nearX,
    farY: usize = 160 - nearY,
    farZ: usize = 288 - nearZ;
  const vox = f32x4.splat(ox),
    voy = f32x4.splat(oy),
    voz = f32x4.splat(oz);
  const vix = f32x4.splat(ix),
    viy = f32x4.splat(iy),
    viz = f32x4.splat(iz);
  const vMin = f32x4.splat(tMin),
    slack = f32x4.splat(EXIT_SLACK);
  let top = stackTop;
  for (;;) {
    if (word & (<u32>LEAF)) {
      const instance = word & ~(<u32>LEAF);
      const at = instances + <usize>instance * INSTANCE_SIZE;
      const m = instanceMatrices(scene, at);
      const m0 = load<f32>(m),
        m1 = load<f32>(m, 4),
        m2 = load<f32>(m, 8);
      const m4 = load<f32>(m, 16),
        m5 = load<f32>(m, 20),
        m6 = load<f32>(m, 24);
      const m8 = load<f32>(m, 32),
        m9 = load<f32>(m, 36),
        m10 = load<f32>(m, 40);
      const there = (load<u32>(at, INSTANCE_FLAGS) & hidden) === 0;
      const found =
        there &&
        traceMesh(
          <usize>load<u32>(at + INSTANCE_MESH),
          m0 * ox + m1 * oy + m2 * oz + load<f32>(m, 12),
          m4 * ox + m5 * oy + m6 * oz + load<f32>(m, 28),
          m8 * ox + m9 * oy + m10 * oz + load<f32>(m, 44),
          m0 * dx + m1 * dy + m2 * dz,
          m4 * dx + m5 * dy + m6 * dz,
          m8 * dx + m9 * dy + m10 * dz,
          tMin,
          any,
        );
      if (found) {
        hitInstance = <i32>instance;
        if (any) return true;
      }
    } else {
      const node = <usize>word;
      const vMax = f32x4.splat(hitT);
      const nearA = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY), voy), viy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ), voz), viz), vMin),
      );
      const farA = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + farX), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + farY), voy), viy),
        ),
        f32x4.mul(f32x4.sub(v128.load(node + farZ), voz), viz),
      );
      const nearB = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX, 16), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY, 16), voy), viy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ, 16), voz), viz), vMin),
      );
      const farB = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + farX, 16), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + farY, 16), voy), viy),
        ),
        f32x4.mul(f32x4.sub(v128.load(node + farZ, 16), voz), viz),
      );
      const mask: u32 =
        (<u32>i32x4.bitmask(f32x4.le(nearA, f32x4.pmin(f32x4.mul(farA, slack), vMax)))) |
        ((<u32>i32x4.bitmask(f32x4.le(nearB, f32x4.pmin(f32x4.mul(farB, slack), vMax)))) << 4);
      if (mask !== 0) {
        const children = node + NODE_CHILD;
        if ((mask & (mask - 1)) === 0) {
          word = load<u32>(children + ((<usize>ctz(mask)) << 2));
          continue;
        }
        top = pushChildren(top, children, mask, nearA, nearB);
      }
    }
    // What lies behind the nearest hit is passed over.
    let more = false;
    while (!more && top > stackTop) {
      top -= 8;
      more = load<f32>(top, 4) <= hitT;
    }
    if (!more) break;
    word = load<u32>(top);
  }
  return hitInstance >= 0;
}

/** Pushes the children whose bits are set with the distances at which the ray enters them, the nearest on top. */
function pushChildren(from: usize, children: usize, bits: u32, nearA: v128, nearB: v128): usize {
  v128.store(entryDistances, nearA);
  v128.store(entryDistances, nearB, 16);
  let top = from;
  let mask = bits;
  do {
    const k: usize = (<usize>ctz(mask)) << 2;
    mask &= mask - 1;
    const distance = load<f32>(entryDistances + k);
    let at = top;
    while (at > from && load<f32>(at - 8, 4) < distance) {
      store<u64>(at, load<u64>(at - 8));
      at -= 8;
    }
    store<u32>(at, load<u32>(children + k));
    store<f32>(at, distance, 4);
    top += 8;
  } while (mask !== 0);
  return top;
}

function traceMesh(mesh: usize, ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, tMin: f32, any: bool): bool {
  const ix = reciprocal(dx),
    iy = reciprocal(dy),
    iz = reciprocal(dz);
  const nearX: usize = ix < 0 ? 32 : 0,
    nearY: usize = iy < 0 ? 96 : 64,
    nearZ: usize = iz < 0 ? 160 : 128;
  const farX: usize = 32 - nearX,
    farY: usize = 160 - nearY,
    farZ: usize = 288 - nearZ;
  const vox = f32x4.splat(ox),
    voy = f32x4.splat(oy),
    voz = f32x4.splat(oz);
  const vix = f32x4.splat(ix),
    viy = f32x4.splat(iy),
    viz = f32x4.splat(iz);
  const vMin = f32x4.splat(tMin),
    slack = f32x4.splat(EXIT_SLACK);

  // Shear that turns the ray into the z axis, the largest direction component as z.
  const ax = abs(dx),
    ay = abs(dy),
    az = abs(dz);
  const kz: usize = ax > ay ? (ax > az ? 0 : 2) : ay > az ? 1 : 2;
  const kx: usize = kz === 2 ? 0 : kz + 1;
  const ky: usize = kx === 2 ? 0 : kx + 1;
  const dkx = kx === 0 ? dx : kx === 1 ? dy : dz;
  const dky = ky === 0 ? dx : ky === 1 ? dy : dz;
  const dkz = kz === 0 ? dx : kz === 1 ? dy : dz;
  const sz: f32 = <f32>1 / dkz;
  const sheerX = f32x4.splat(dkx * sz),
    sheerY = f32x4.splat(dky * sz),
    sheerZ = f32x4.splat(sz);
  const okx = kx === 0 ? vox : kx === 1 ? voy : voz;
  const oky = ky === 0 ? vox : ky === 1 ? voy : voz;
  const okz = kz === 0 ? vox : kz === 1 ? voy : voz;
  const rowX = kx * 16,
    rowY = ky * 16,
    rowZ = kz * 16;
  const zero = f32x4.splat(0);

  let found = false;
  let nearest = hitT;
  let top = stackMesh;
  let word = load<u32>(mesh + MESH_ROOT);
  for (;;) {
    if (word & (<u32>LEAF)) {
      const block = <usize>(word << LEAF_SHIFT);
      const az4 = f32x4.sub(v128.load(block + rowZ), okz);
      const bz4 = f32x4.sub(v128.load(block + rowZ, 48), okz);
      const cz4 = f32x4.sub(v128.load(block + rowZ, 96), okz);
      const ax4 = f32x4.sub(f32x4.sub(v128.load(block + rowX), okx), f32x4.mul(sheerX, az4));
      const ay4 = f32x4.sub(f32x4.sub(v128.load(block + rowY), oky), f32x4.mul(sheerY, az4));
      const bx4 = f32x4.sub(f32x4.sub(v128.load(block + rowX, 48), okx), f32x4.mul(sheerX, bz4));
      const by4 = f32x4.sub(f32x4.sub(v128.load(block + rowY, 48), oky), f32x4.mul(sheerY, bz4));
      const cx4 = f32x4.sub(f32x4.sub(v128.load(block + rowX, 96), okx), f32x4.mul(sheerX, cz4));
      const cy4 = f32x4.sub(f32x4.sub(v128.load(block + rowY, 96), oky), f32x4.mul(sheerY, cz4));
      const u = f32x4.sub(f32x4.mul(cx4, by4), f32x4.mul(cy4, bx4));
      const v = f32x4.sub(f32x4.mul(ax4, cy4), f32x4.mul(ay4, cx4));
      const w = f32x4.sub(f32x4.mul(bx4, ay4), f32x4.mul(by4, ax4));
      const lowest = f32x4.pmin(f32x4.pmin(u, v), w);
      const highest = f32x4.pmax(f32x4.pmax(u, v), w);
      const inside = v128.or(f32x4.ge(lowest, zero), f32x4.le(highest, zero));
      if (v128.any_true(inside)) {
        const det = f32x4.add(f32x4.add(u, v), w);
        const t4 = f32x4.div(
          f32x4.mul(sheerZ, f32x4.add(f32x4.add(f32x4.mul(u, az4), f32x4.mul(v, bz4)), f32x4.mul(w, cz4))),
          det,
        );
        // A triangle seen edge-on has det 0 and a t that is no number: both comparisons are then false.
        const hits = i32x4.bitmask(v128.and(inside, v128.and(f32x4.gt(t4, vMin), f32x4.lt(t4, f32x4.splat(nearest)))));
        if (hits) {
          found = true;
          if (any) return true;
          if (hits & 1)
            takeHit(
              block,
              0,
              f32x4.extract_lane(t4, 0),
              f32x4.extract_lane(v, 0),
              f32x4.extract_lane(w, 0),
              f32x4.extract_lane(det, 0),
            );
          if (hits & 2)
            takeHit(
              block,
              4,
              f32x4.extract_lane(t4, 1),
              f32x4.extract_lane(v, 1),
              f32x4.extract_lane(w, 1),
              f32x4.extract_lane(det, 1),
            );
          if (hits & 4)
            takeHit(
              block,
              8,
              f32x4.extract_lane(t4, 2),
              f32x4.extract_lane(v, 2),
              f32x4.extract_lane(w, 2),
              f32x4.extract_lane(det, 2),
            );
          if (hits & 8)
            takeHit(
              block,
              12,
              f32x4.extract_lane(t4, 3),
              f32x4.extract_lane(v, 3),
              f32x4.extract_lane(w, 3),
              f32x4.extract_lane(det, 3),
            );
          nearest = hitT;
        }
      }
    } else {
      const node = <usize>word;
      const vMax = f32x4.splat(nearest);
      const nearA = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY), voy), viy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ), voz), viz), vMin),
      );
      const farA = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + farX), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + farY), voy), viy),
        ),
        f32x4.mul(f32x4.sub(v128.load(node + farZ), voz), viz),
      );
      const nearB = f32x4.pmax(
        f32x4.pmax(
          f32x4.mul(f32x4.sub(v128.load(node + nearX, 16), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + nearY, 16), voy), viy),
        ),
        f32x4.pmax(f32x4.mul(f32x4.sub(v128.load(node + nearZ, 16), voz), viz), vMin),
      );
      const farB = f32x4.pmin(
        f32x4.pmin(
          f32x4.mul(f32x4.sub(v128.load(node + farX, 16), vox), vix),
          f32x4.mul(f32x4.sub(v128.load(node + farY, 16), voy), viy),
        ),
        f32x4.mul(f32x4.sub(v128.load(node + farZ, 16), voz), viz),
      );
      const mask: u32 =
        (<u32>i32x4.bitmask(f32x4.le(nearA, f32x4.pmin(f32x4.mul(farA, slack), vMax)))) |
        ((<u32>i32x4.bitmask(f32x4.le(nearB, f32x4.pmin(f32x4.mul(farB, slack), vMax)))) << 4);
      if (mask !== 0) {
        const children = node + NODE_CHILD;
        if ((mask & (mask - 1)) === 0) {
          // One child alone is most common: it needs no place on the stack.
          word = load<u32>(children + ((<usize>ctz(mask)) << 2));
          continue;
        }
        if (any) {
          // Any hit will do: the order costs more than it saves.
          let rest = mask & (mask - 1);
          do {
            store<u32>(top, load<u32>(children + ((<usize>ctz(rest)) << 2)));
            store<f32>(top, tMin, 4);
            top += 8;
            rest &= rest - 1;
          } while (rest !== 0);
          word = load<u32>(children + ((<usize>ctz(mask)) << 2));
          continue;
        }
        // The nearest child next; the others wait unsorted, which measured as fast as sorting them.
        v128.store(entryDistances, nearA);
        v128.store(entryDistances, nearB, 16);
        let best: usize = (<usize>ctz(mask)) << 2;
        let least = load<f32>(entryDistances + best);
        let rest = mask & (mask - 1);
        do {
          const k: usize = (<usize>ctz(rest)) << 2;
          const distance = load<f32>(entryDistances + k);
          const nearer = distance < least;
          const behind = nearer ? best : k;
          store<u32>(top, load<u32>(children + behind));
          store<f32>(top, nearer ? least : distance, 4);
          top += 8;
          best = nearer ? k : best;
          least = nearer ? distance : least;
          rest &= rest - 1;
        } while (rest !== 0);
        word = load<u32>(children + best);
        continue;
      }
    }
    // What lies behind the nearest hit is passed over.
    let more = false;
    while (!more && top > stackMesh) {
      top -= 8;
      more = load<f32>(top, 4) <= nearest;
    }
    if (!more) break;
    word = load<u32>(top);
  }
  return found;
}

function takeHit(block: usize, at: usize, t: f32, v: f32, w: f32, det: f32): void {
  // Two triangles at the same distance (a doubled face): the lower number wins, whatever the order of the visit.
  if (t > hitT) return;
  hitT = t;
  hitU = v / det;
  hitV = w / det;
  hitTriangle = load<u32>(block + at, BLOCK_TRIANGLE);
}
