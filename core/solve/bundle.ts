import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { cross, dot, subtract, type Vector } from '../geometry';
import type { Pinhole, Sight } from './pinhole';
import { nudged } from './refine';

/** A point of the scene and where each frame sees it. */
export interface Track {
  /** Null where it is not known yet. */
  place: Vector | null;
  /** Its place is known for certain and stays. */
  fixed: boolean;
  /** By frame; null where it is not seen. */
  sights: readonly (Sight | null)[];
}

/** Numbers of a camera's place and turn that are looked for. */
const POSE = 6;
const MOST_ROUNDS = 60;

interface Seen {
  frame: number;
  track: number;
  seen: Sight;
}

/**
 * Cameras and points that see and are seen as was measured, all at once, by least squares; the lens is the same on all frames (Triggs,
 * McLauchlan, Hartley and Fitzgibbon, Bundle Adjustment, 2000). Cameras do not know of each other, so they are taken out of each
 * round's equations first, and what is left is as many as there are points.
 * @param cameras of every frame; null where there is none
 * @param lens whether the focal length is looked for
 */
export function bundle(
  cameras: readonly (Pinhole | null)[],
  tracks: readonly Track[],
  lens: boolean,
): { cameras: (Pinhole | null)[]; places: (Vector | null)[] } {
  const seen: Seen[] = tracks.flatMap(({ place, sights }, track) =>
    sights.flatMap((at, frame) => (at && place && cameras[frame] ? [{ frame, track, seen: at }] : [])),
  );
  const free = new Map<number, number>();
  tracks.forEach(({ place, fixed }, k) => {
    if (place && !fixed) free.set(k, free.size);
  });
  let state = { cameras: [...cameras], places: tracks.map(({ place }) => place) };
  let miss = missOfAll(state, seen);
  let damping = 1e-4;
  for (let round = 0; round < MOST_ROUNDS && damping < 1e8; round++) {
    const next = step(state, seen, free, lens, damping);
    const after = next ? missOfAll(next, seen) : Infinity;
    if (!next || !(after < miss)) {
      damping *= 8;
      continue;
    }
    const gained = 1 - after / miss;
    state = next;
    miss = after;
    damping = Math.max(1e-12, damping / 5);
    if (gained < 1e-9) break;
  }
  return state;
}

type State = { cameras: (Pinhole | null)[]; places: (Vector | null)[] };

/** Sum of squared misses. */
function missOfAll({ cameras, places }: State, seen: readonly Seen[]): number {
  let sum = 0;
  for (const each of seen) {
    const at = look(cameras[each.frame]!, places[each.track]!);
    if (!at) return Infinity;
    sum += (at.x - each.seen[0]) ** 2 + (at.y - each.seen[1]) ** 2;
  }
  return sum;
}

function look({ position, right, up, forward, focal }: Pinhole, place: Vector) {
  const to = subtract(place, position);
  const along = dot(to, forward);
  if (along <= 1e-9) return null;
  return { to, along, x: (focal * dot(to, right)) / along, y: (focal * dot(to, up)) / along };
}

/** One round of Levenberg and Marquardt; null where its equations have no solution. */
function step(
  state: State,
  seen: readonly Seen[],
  free: ReadonlyMap<number, number>,
  lens: boolean,
  damping: number,
): State | null {
  const shared = free.size * 3 + (lens ? 1 : 0);
  const ofLens = free.size * 3;
  const frames = new Map<number, { pose: Matrix; cross: Matrix; right: Matrix }>();
  const rest = Matrix.zeros(Math.max(1, shared), Math.max(1, shared));
  const restRight = Matrix.zeros(Math.max(1, shared), 1);
  for (const { frame, track, seen: at } of seen) {
    const camera = state.cameras[frame]!;
    const found = look(camera, state.places[track]!);
    if (!found) return null;
    let own = frames.get(frame);
    if (!own) {
      own = { pose: Matrix.zeros(POSE, POSE), cross: Matrix.zeros(POSE, Math.max(1, shared)), right: Matrix.zeros(POSE, 1) }; // prettier-ignore
      frames.set(frame, own);
    }
    const point = free.get(track);
    const parts = [
      { axis: camera.right, value: found.x, left: at[0] - found.x },
      { axis: camera.up, value: found.y, left: at[1] - found.y },
    ];
    for (const { axis, value, left } of parts) {
      // Of the sight by the place seen from the camera: along its axis, and away from it.
      const toPlace = axis.map(
        (v, k) => (camera.focal * v - value * camera.forward[k]!) / found.along,
      ) as unknown as Vector;
      const byTurn = [cross(axis, found.to), cross(camera.forward, found.to)];
      const pose = [
        ...[0, 1, 2].map((k) => (camera.focal * byTurn[0]![k]! - value * byTurn[1]![k]!) / found.along),
        ...toPlace.map((v) => -v),
      ];
      const others: [number, number][] = point === undefined ? [] : toPlace.map((v, k) => [point * 3 + k, v]);
      if (lens) others.push([ofLens, value]);
      for (let i = 0; i < POSE; i++) {
        own.right.set(i, 0, own.right.get(i, 0) + pose[i]! * left);
        for (let j = 0; j < POSE; j++) own.pose.set(i, j, own.pose.get(i, j) + pose[i]! * pose[j]!);
        for (const [j, v] of others) own.cross.set(i, j, own.cross.get(i, j) + pose[i]! * v);
      }
      for (const [i, u] of others) {
        restRight.set(i, 0, restRight.get(i, 0) + u * left);
        for (const [j, v] of others) rest.set(i, j, rest.get(i, j) + u * v);
      }
    }
  }
  for (let k = 0; k < shared; k++) rest.set(k, k, rest.get(k, k) * (1 + damping) + 1e-15);
  const solved = new Map<number, { byRight: Matrix; byCross: Matrix }>();
  for (const [frame, { pose, cross: beside, right }] of frames) {
    for (let k = 0; k < POSE; k++) pose.set(k, k, pose.get(k, k) * (1 + damping) + 1e-15);
    const parts = new CholeskyDecomposition(pose);
    if (!parts.isPositiveDefinite()) return null;
    const [byRight, byCross] = [parts.solve(right), parts.solve(beside)];
    solved.set(frame, { byRight, byCross });
    if (shared > 0) {
      rest.sub(beside.transpose().mmul(byCross));
      restRight.sub(beside.transpose().mmul(byRight));
    }
  }
  let change = Matrix.zeros(Math.max(1, shared), 1);
  if (shared > 0) {
    // Rounding leaves it a little askew.
    const parts = new CholeskyDecomposition(Matrix.add(rest, rest.transpose()).div(2));
    if (!parts.isPositiveDefinite()) return null;
    change = parts.solve(restRight);
  }
  const more = lens ? change.get(ofLens, 0) : 0;
  return {
    cameras: state.cameras.map((camera, frame) => {
      const own = solved.get(frame);
      if (!camera || !own) return camera;
      const moved = Matrix.sub(own.byRight, own.byCross.mmul(change)).getColumn(0);
      return nudged(camera, [...moved, more]);
    }),
    places: state.places.map((place, track) => {
      const point = free.get(track);
      if (!place || point === undefined) return place;
      return [0, 1, 2].map((k) => place[k]! + change.get(point * 3 + k, 0)) as unknown as Vector;
    }),
  };
}
