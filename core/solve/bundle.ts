import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { cross, dot, length, subtract, type Vector } from '../geometry';
import type { Pinhole, Sight } from './pinhole';
import { nudged } from './refine';

/** A point of the scene and where each frame sees it. */
export interface Track {
  /** Null where it is not known yet. */
  place: Vector | null;
  /** Where it was marked to be, on the ground; null of all others. */
  marked: Vector | null;
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
  /** How much it counts: what is far off counts less. */
  weight: number;
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
    sights.flatMap((at, frame) => (at && place && cameras[frame] ? [{ frame, track, seen: at, weight: 1 }] : [])),
  );
  const free = new Map<number, number>();
  tracks.forEach(({ place }, k) => {
    if (place) free.set(k, free.size);
  });
  let state = { cameras: [...cameras], places: tracks.map(({ place }) => place) };
  const pulls = pullsOf(state, tracks, seen);
  let damping = 1e-4;
  for (let round = 0; round < MOST_ROUNDS && damping < 1e8; round++) {
    weigh(state, seen);
    const miss = missOfAll(state, seen, pulls);
    const next = step(state, seen, free, pulls, lens, damping);
    const after = next ? missOfAll(next, seen, pulls) : Infinity;
    if (!next || !(after < miss)) {
      damping *= 8;
      continue;
    }
    const gained = 1 - after / miss;
    state = next;
    damping = Math.max(1e-12, damping / 5);
    if (gained < 1e-9) break;
  }
  return state;
}

type State = { cameras: (Pinhole | null)[]; places: (Vector | null)[] };

/**
 * Lets what is much further off than most count less (Geman and McClure's weights): points on the outline of something slide along it as the
 * view changes, and some are mixed up.
 */
function weigh({ cameras, places }: State, seen: readonly Seen[]): void {
  const off = seen.map((each) => {
    const at = look(cameras[each.frame]!, places[each.track]!);
    return at ? Math.hypot(at.x - each.seen[0], at.y - each.seen[1]) : Infinity;
  });
  const usual = [...off].sort((a, b) => a - b)[off.length >> 1] ?? 0;
  const scale = Math.max(1e-9, 2 * usual);
  seen.forEach((each, k) => (each.weight = 1 / (1 + (off[k]! / scale) ** 2) ** 2));
}

/** What draws a marked point to where it was marked. */
interface Pull {
  track: number;
  to: Vector;
  /** Of squared distances along x, y and z in mm, against squares of half widths. */
  weights: Vector;
}

/** How much truer it is that marks lie on the ground than where on it they are. */
const FLATNESS = 400;

/**
 * A mark counts as much as having seen the point there once more: it may be half a pixel off, which would tilt the ground if it were taken
 * for the truth, and yet it is all that tells size and level.
 */
function pullsOf({ cameras }: State, tracks: readonly Track[], seen: readonly Seen[]): Pull[] {
  return tracks.flatMap(({ marked }, track): Pull[] => {
    if (!marked) return [];
    const near = seen.flatMap((each) => {
      const camera = each.track === track ? cameras[each.frame] : null;
      return camera ? [camera.focal / length(subtract(marked, camera.position))] : [];
    });
    if (near.length === 0) return [];
    const weight = (near.reduce((sum, v) => sum + v, 0) / near.length) ** 2;
    return [{ track, to: marked, weights: [weight, weight * FLATNESS, weight] }];
  });
}

/** Sum of squared misses. */
function missOfAll({ cameras, places }: State, seen: readonly Seen[], pulls: readonly Pull[]): number {
  let sum = 0;
  for (const { track, to, weights } of pulls)
    places[track]!.forEach((v, k) => (sum += weights[k]! * (v - to[k]!) ** 2));
  for (const each of seen) {
    const at = look(cameras[each.frame]!, places[each.track]!);
    if (!at) return Infinity;
    sum += each.weight * ((at.x - each.seen[0]) ** 2 + (at.y - each.seen[1]) ** 2);
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
  pulls: readonly Pull[],
  lens: boolean,
  damping: number,
): State | null {
  const shared = free.size * 3 + (lens ? 1 : 0);
  const ofLens = free.size * 3;
  const frames = new Map<number, { pose: Matrix; cross: Matrix; right: Matrix }>();
  const rest = Matrix.zeros(Math.max(1, shared), Math.max(1, shared));
  const restRight = Matrix.zeros(Math.max(1, shared), 1);
  for (const { frame, track, seen: at, weight } of seen) {
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
        own.right.set(i, 0, own.right.get(i, 0) + weight * pose[i]! * left);
        for (let j = 0; j < POSE; j++) own.pose.set(i, j, own.pose.get(i, j) + weight * (pose[i]! * pose[j]!));
        for (const [j, v] of others) own.cross.set(i, j, own.cross.get(i, j) + weight * pose[i]! * v);
      }
      for (const [i, u] of others) {
        restRight.set(i, 0, restRight.get(i, 0) + weight * u * left);
        for (const [j, v] of others) rest.set(i, j, rest.get(i, j) + weight * (u * v));
      }
    }
  }
  for (const { track, to, weights } of pulls) {
    weights.forEach((weight, k) => {
      const at = free.get(track)! * 3 + k;
      rest.set(at, at, rest.get(at, at) + weight);
      restRight.set(at, 0, restRight.get(at, 0) + weight * (to[k]! - state.places[track]![k]!));
    });
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
