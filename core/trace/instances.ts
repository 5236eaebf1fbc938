import * as L from '@zippy/kernel/layout';
import type { Finish } from '../document';
import {
  determinant,
  halfDiagonal,
  mix,
  multiplyTransforms,
  composeTransform,
  polarDecomposition,
  transformBounds,
  type Bounds,
  type Polar,
  type Quaternion,
  type Transform,
} from '../geometry';
import { lightColor, luminance, partRadiance } from '../optics';
import type { LoadedMesh } from './meshes';

/** A part in the world while the shutter is open. */
export interface Instance {
  mesh: LoadedMesh;
  name: string;
  /** Object to world when the slice begins, and its inverse. */
  transform: Transform;
  inverse: Transform;
  /** Places at the beginning and the end of the slice, where they differ. */
  motion: { from: Polar; to: Polar } | null;
  /** Object to world on the next frame, where motion is kept. */
  next: Transform | null;
  /** World bounds over the whole slice. */
  box: Bounds;
  /** Radius of a sphere about the middle of the bounds that it stays in. */
  reach: number;
  finish: number;
  finishName: string;
  emission: [number, number, number];
  /** Radiance × area, 0 where it gives no light. */
  intensity: number;
  flags: number;
  /** A clear solid, behind whose surface light samples cannot look. */
  bends: boolean;
}

export interface Placed {
  mesh: LoadedMesh;
  name: string;
  from: Transform;
  to: Transform;
  inverse: Transform;
  next: Transform | null;
  glow: number;
  flags: number;
}

/** How a part stands, moves and shines during a slice. */
export function makeInstance(placed: Placed, worn: Finish, finish: number): Instance {
  const { mesh, from, to } = placed;
  const area = mesh.area * Math.abs(determinant(from)) ** (2 / 3);
  const shines = worn.emissionPower > 0 && placed.glow > 0;
  const color = shines ? lightColor(worn.emissionKelvin, worn.emissionColor) : ([0, 0, 0] as const);
  const radiance = shines && luminance(color) > 0 ? partRadiance(worn, placed.glow, area) : 0;
  const moves = from.some((v, k) => Math.abs(v - to[k]!) > 1e-9 * Math.max(1, Math.abs(v)));
  const motion = moves ? { from: polarDecomposition(from), to: towards(from, to) } : null;
  const box = motion ? sweptBounds(mesh.bounds, motion) : transformBounds(mesh.bounds, from);
  return {
    mesh,
    name: placed.name,
    transform: from,
    inverse: placed.inverse,
    motion,
    next: placed.next,
    box,
    reach: motion ? halfDiagonal(box) : mesh.reach * largestScale(from),
    finish,
    finishName: worn.name,
    emission: [color[0] * radiance, color[1] * radiance, color[2] * radiance],
    // A closed part shows a quarter of its surface on average.
    intensity: radiance * area * (worn.emissionTwoSided ? 0.5 : 0.25),
    flags:
      placed.flags |
      (worn.emissionTwoSided ? L.INSTANCE_TWO_SIDED : 0) |
      (worn.emissionVisibleToCamera ? 0 : L.INSTANCE_DARK_TO_CAMERA),
    bends: worn.transmissionWeight > 0.2 && !worn.thinWalled && worn.baseMetalness < 0.8,
  };
}

/** Length of the longest image of an axis. */
const largestScale = (m: Transform): number =>
  Math.max(...[0, 1, 2].map((k) => Math.hypot(m[k]!, m[4 + k]!, m[8 + k]!)));

/** The last place as a decomposition whose rotation goes the short way from the first. */
function towards(from: Transform, to: Transform): Polar {
  const a = polarDecomposition(from).rotation;
  const end = polarDecomposition(to);
  const dot = a.reduce((sum, v, k) => sum + v * end.rotation[k]!, 0);
  return dot < 0 ? { ...end, rotation: end.rotation.map((v) => -v) as unknown as Quaternion } : end;
}

/** The place at a part of the slice, as the kernel makes it. */
function placeBetween({ from, to }: { from: Polar; to: Polar }, time: number): Transform {
  const q = from.rotation.map((v, k) => v + (to.rotation[k]! - v) * time);
  const size = Math.hypot(...q);
  const rotation = q.map((v) => v / size) as unknown as Quaternion;
  const s = from.stretch.map((v, k) => v + (to.stretch[k]! - v) * time);
  const turned = composeTransform(mix(from.translation, to.translation, time), rotation, [1, 1, 1]);
  return multiplyTransforms(turned, [
    s[0]!, s[1]!, s[2]!, 0, s[3]!, s[4]!, s[5]!, 0, s[6]!, s[7]!, s[8]!, 0,
  ]); // prettier-ignore
}

const STEPS = 4;

function sweptBounds(bounds: Bounds, motion: { from: Polar; to: Polar }): Bounds {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let k = 0; k <= STEPS; k++) {
    const box = transformBounds(bounds, placeBetween(motion, k / STEPS));
    for (let c = 0; c < 3; c++) {
      low[c] = Math.min(low[c]!, box.low[c]!);
      high[c] = Math.max(high[c]!, box.high[c]!);
    }
  }
  // Between two steps a point leaves their chord by no more than the height of the arc.
  const dot = Math.abs(motion.from.rotation.reduce((sum, v, k) => sum + v * motion.to.rotation[k]!, 0));
  const angle = (2 * Math.acos(Math.min(1, dot))) / STEPS;
  const reach = Math.hypot(...[0, 1, 2].map((k) => Math.max(Math.abs(bounds.low[k]!), Math.abs(bounds.high[k]!))));
  const stretch = Math.max(...motion.from.stretch.map(Math.abs), ...motion.to.stretch.map(Math.abs));
  const slack = reach * stretch * 3 * (1 - Math.cos(angle / 2));
  return {
    low: low.map((v) => v - slack) as [number, number, number],
    high: high.map((v) => v + slack) as [number, number, number],
  };
}

/** Puts a decomposition where the kernel's motion.ts reads it. */
export function writePolar(f32: Float32Array, at: number, { translation, rotation, stretch }: Polar): void {
  f32.set([...translation, ...rotation, ...stretch], at / 4);
}
