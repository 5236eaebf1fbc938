import { evenness } from './alignShape';
import { greyAt, type Grey } from './pyramid';
import type { Spot } from './spot';

/** Half the edge of what is compared, in pixels of each level. */
const REACH = 10;
const MOST_STEPS = 30;
/** A step shorter than this, in pixels, is the last. */
const STILL = 0.005;
/** What is compared must have edges in both directions: least eigenvalue of their squares, for each pixel. */
const LEAST_TEXTURE = 2e-5;
/** Root of the mean squared difference in brightness from which on it is something else. */
const MOST_DIFFERENCE = 0.09;
/** Pixels by which a point that is tracked back may miss where it came from. */
const MOST_RETURN = 0.6;

/**
 * Where what is around a place of one picture is in another one (Lucas and Kanade, An Iterative Image Registration Technique, 1981; in
 * pyramids after Bouguet, 2000). It is tracked back too: what does not return is lost.
 * @returns null where it is lost
 */
export function trackPoint(from: readonly Grey[], to: readonly Grey[], at: Spot, guess: Spot = at): Spot | null {
  const there = follow(from, to, at, guess);
  const back = there && follow(to, from, there, at);
  return back && Math.hypot(back.x - at.x, back.y - at.y) <= MOST_RETURN ? there : null;
}

function follow(from: readonly Grey[], to: readonly Grey[], at: Spot, guess: Spot): Spot | null {
  let [dx, dy] = [guess.x - at.x, guess.y - at.y].map((v) => v / 2 ** (from.length - 1)) as [number, number];
  for (let level = from.length - 1; level >= 0; level--) {
    const by = 2 ** level;
    const moved = align(from[level]!, to[level]!, { x: at.x / by, y: at.y / by }, dx, dy);
    // What a coarse picture does not show may still be found on the finer ones.
    if (moved) [dx, dy] = moved;
    else if (level === 0) return null;
    if (level > 0) [dx, dy] = [dx * 2, dy * 2];
  }
  const found = { x: at.x + dx, y: at.y + dy };
  const { width, height } = to[0]!;
  const inside = found.x >= 0 && found.y >= 0 && found.x <= width - 1 && found.y <= height - 1;
  return inside && difference(from[0]!, to[0]!, at, found) <= MOST_DIFFERENCE ? found : null;
}

/** The move that makes a window of one picture like that of another one. */
function align(from: Grey, to: Grey, at: Spot, startX: number, startY: number): [number, number] | null {
  const side = 2 * REACH + 1;
  const [values, slopesX, slopesY] = [0, 1, 2].map(() => new Float32Array(side * side)) as [Float32Array, Float32Array, Float32Array]; // prettier-ignore
  let [xx, xy, yy] = [0, 0, 0];
  for (let j = 0, k = 0; j < side; j++) {
    for (let i = 0; i < side; i++, k++) {
      const [x, y] = [at.x + i - REACH, at.y + j - REACH];
      values[k] = greyAt(from, x, y);
      const gx = (greyAt(from, x + 1, y) - greyAt(from, x - 1, y)) / 2;
      const gy = (greyAt(from, x, y + 1) - greyAt(from, x, y - 1)) / 2;
      slopesX[k] = gx;
      slopesY[k] = gy;
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
  }
  const least = (xx + yy - Math.hypot(xx - yy, 2 * xy)) / 2;
  if (least / (side * side) < LEAST_TEXTURE) return null;
  const [ownMean, ownSpread] = evenness(values);
  const there = new Float32Array(side * side);
  const determinant = xx * yy - xy * xy;
  let [dx, dy] = [startX, startY];
  for (let step = 0; step < MOST_STEPS; step++) {
    let [bx, by] = [0, 0];
    for (let j = 0, k = 0; j < side; j++)
      for (let i = 0; i < side; i++, k++) there[k] = greyAt(to, at.x + dx + i - REACH, at.y + dy + j - REACH);
    // The light may have changed: both windows are taken as bright, and with as much contrast, as each other.
    const [mean, spread] = evenness(there);
    const gain = spread > 0 ? ownSpread / spread : 1;
    for (let j = 0, k = 0; j < side; j++) {
      for (let i = 0; i < side; i++, k++) {
        const left = values[k]! - ownMean - gain * (there[k]! - mean);
        bx += left * slopesX[k]!;
        by += left * slopesY[k]!;
      }
    }
    const [sx, sy] = [(yy * bx - xy * by) / determinant, (xx * by - xy * bx) / determinant];
    dx += sx;
    dy += sy;
    if (Math.hypot(dx - startX, dy - startY) > 4 * REACH) return null;
    if (Math.hypot(sx, sy) < STILL) break;
  }
  return [dx, dy];
}

/** Root of the mean squared difference of two windows, with their mean brightness taken out. */
function difference(from: Grey, to: Grey, at: Spot, found: Spot): number {
  let [sum, squares, count] = [0, 0, 0];
  for (let j = -REACH; j <= REACH; j++) {
    for (let i = -REACH; i <= REACH; i++, count++) {
      const d = greyAt(from, at.x + i, at.y + j) - greyAt(to, found.x + i, found.y + j);
      sum += d;
      squares += d * d;
    }
  }
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}
