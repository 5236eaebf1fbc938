// Where instances are at the time of the present path. A moving instance goes from its first to its last place of the slice as
// translation, rotation and stretch (Shoemake and Duff, Matrix Animation and Polar Decomposition, 1992). Matrices are made when a
// ray first meets the instance's box, and kept until the next path.

import { INSTANCE_MOTION, INSTANCE_MOVING, MOVED_MATRICES, MOVED_SIZE, SCENE_MOVED, SCENE_MOVING } from './layout';

const ONE: f32 = 1;
const TWO: f32 = 2;

/** Part of the slice that has gone by, 0 to 1. */
export let shutterTime: f32 = 0;
let stamp: u32 = 0;
let worker: u32 = 0;

export function setMotionWorker(index: u32): void {
  worker = index;
}

/** Begins a path at its own time. */
export function openShutter(time: f32): void {
  shutterTime = time;
  stamp++;
}

/** Address of an instance's matrices now: world to object, and behind it object to world. */
export function instanceMatrices(scene: usize, instance: usize): usize {
  const place = load<u32>(instance, INSTANCE_MOVING);
  if (place === 0) return instance;
  const entry =
    <usize>load<u32>(scene, SCENE_MOVED) +
    (<usize>worker * load<u32>(scene, SCENE_MOVING) + <usize>(place - 1)) * MOVED_SIZE;
  // Slices share the room, so the stamp tells the motion too.
  const motion = load<u32>(instance, INSTANCE_MOTION);
  const matrices = entry + MOVED_MATRICES;
  if (load<u32>(entry) !== stamp || load<u32>(entry, 4) !== motion) {
    store<u32>(entry, stamp);
    store<u32>(entry, motion, 4);
    move(<usize>motion, matrices);
  }
  return matrices;
}

function between(from: usize, offset: usize): f32 {
  const a = load<f32>(from + offset);
  return a + (load<f32>(from + 64 + offset) - a) * shutterTime;
}

function move(motion: usize, to: usize): void {
  // Turns within a slice are small: blending and normalising quaternions goes round evenly enough.
  let x = between(motion, 12),
    y = between(motion, 16),
    z = between(motion, 20),
    w = between(motion, 24);
  const n = ONE / sqrt<f32>(x * x + y * y + z * z + w * w);
  x *= n;
  y *= n;
  z *= n;
  w *= n;
  const r0 = ONE - TWO * (y * y + z * z),
    r1 = TWO * (x * y - z * w),
    r2 = TWO * (x * z + y * w);
  const r3 = TWO * (x * y + z * w),
    r4 = ONE - TWO * (x * x + z * z),
    r5 = TWO * (y * z - x * w);
  const r6 = TWO * (x * z - y * w),
    r7 = TWO * (y * z + x * w),
    r8 = ONE - TWO * (x * x + y * y);
  const s0 = between(motion, 28),
    s1 = between(motion, 32),
    s2 = between(motion, 36);
  const s3 = between(motion, 40),
    s4 = between(motion, 44),
    s5 = between(motion, 48);
  const s6 = between(motion, 52),
    s7 = between(motion, 56),
    s8 = between(motion, 60);
  const m0 = r0 * s0 + r1 * s3 + r2 * s6,
    m1 = r0 * s1 + r1 * s4 + r2 * s7,
    m2 = r0 * s2 + r1 * s5 + r2 * s8;
  const m4 = r3 * s0 + r4 * s3 + r5 * s6,
    m5 = r3 * s1 + r4 * s4 + r5 * s7,
    m6 = r3 * s2 + r4 * s5 + r5 * s8;
  const m8 = r6 * s0 + r7 * s3 + r8 * s6,
    m9 = r6 * s1 + r7 * s4 + r8 * s7,
    m10 = r6 * s2 + r7 * s5 + r8 * s8;
  const tx = between(motion, 0),
    ty = between(motion, 4),
    tz = between(motion, 8);
  const c0 = m5 * m10 - m6 * m9,
    c1 = m6 * m8 - m4 * m10,
    c2 = m4 * m9 - m5 * m8;
  const inv = ONE / (m0 * c0 + m1 * c1 + m2 * c2);
  const i0 = c0 * inv,
    i1 = (m2 * m9 - m1 * m10) * inv,
    i2 = (m1 * m6 - m2 * m5) * inv;
  const i4 = c1 * inv,
    i5 = (m0 * m10 - m2 * m8) * inv,
    i6 = (m2 * m4 - m0 * m6) * inv;
  const i8 = c2 * inv,
    i9 = (m1 * m8 - m0 * m9) * inv,
    i10 = (m0 * m5 - m1 * m4) * inv;
  v128.store(to, f32x4(i0, i1, i2, -(i0 * tx + i1 * ty + i2 * tz)));
  v128.store(to, f32x4(i4, i5, i6, -(i4 * tx + i5 * ty + i6 * tz)), 16);
  v128.store(to, f32x4(i8, i9, i10, -(i8 * tx + i9 * ty + i10 * tz)), 32);
  v128.store(to, f32x4(m0, m1, m2, tx), 48);
  v128.store(to, f32x4(m4, m5, m6, ty), 64);
  v128.store(to, f32x4(m8, m9, m10, tz), 80);
}
