import { Matrix, solve } from 'ml-matrix';
import { greyAt, type Grey } from './pyramid';
import type { Spot } from './spot';

/** How a window of one picture lies in another one: its place, and its axes, which lean and stretch as the view of it changes. */
export interface Shape extends Spot {
  /** Row by row. */
  axes: readonly [number, number, number, number];
}

export const UPRIGHT: Shape['axes'] = [1, 0, 0, 1];

/** Half the edge of the window, in pixels. */
const REACH = 10;
const MOST_STEPS = 25;
const STILL = 0.003;
/** Axes that are stretched more than this are something else. */
const MOST_STRETCH = 1.8;

/**
 * Where a window of one picture is in another one that sees it from elsewhere, from nearby (Baker and Matthews, Lucas-Kanade 20 Years On,
 * 2004: affine, inverse compositional).
 * @returns null where it leads to nothing
 */
export function alignShape(from: Grey, to: Grey, at: Spot, guess: Shape): Shape | null {
  const side = 2 * REACH + 1;
  const count = side * side;
  const values = new Float32Array(count);
  const slopes = Array.from({ length: 6 }, () => new Float32Array(count));
  const squares = Matrix.zeros(6, 6);
  for (let j = -REACH, k = 0; j <= REACH; j++) {
    for (let i = -REACH; i <= REACH; i++, k++) {
      const [x, y] = [at.x + i, at.y + j];
      values[k] = greyAt(from, x, y);
      const gx = (greyAt(from, x + 1, y) - greyAt(from, x - 1, y)) / 2;
      const gy = (greyAt(from, x, y + 1) - greyAt(from, x, y - 1)) / 2;
      const own = [gx * i, gx * j, gy * i, gy * j, gx, gy];
      for (let a = 0; a < 6; a++) {
        slopes[a]![k] = own[a]!;
        for (let b = 0; b < 6; b++) squares.set(a, b, squares.get(a, b) + own[a]! * own[b]!);
      }
    }
  }
  // A little stiffness, so that what a window does not tell stays as it was.
  for (let a = 0; a < 6; a++) squares.set(a, a, squares.get(a, a) * 1.0005 + 1e-9);
  const [ownMean, ownSpread] = evenness(values);
  let [a, b, c, d] = guess.axes;
  let [x, y] = [guess.x, guess.y];
  const there = new Float32Array(count);
  for (let step = 0; step < MOST_STEPS; step++) {
    for (let j = -REACH, k = 0; j <= REACH; j++)
      for (let i = -REACH; i <= REACH; i++, k++) there[k] = greyAt(to, x + a * i + b * j, y + c * i + d * j);
    const [mean, spread] = evenness(there);
    const gain = spread > 0 ? ownSpread / spread : 1;
    const right = Matrix.zeros(6, 1);
    for (let k = 0; k < count; k++) {
      const left = gain * (there[k]! - mean) - (values[k]! - ownMean);
      for (let s = 0; s < 6; s++) right.set(s, 0, right.get(s, 0) + slopes[s]![k]! * left);
    }
    const [p, q, r, s, u, v] = solve(squares, right).getColumn(0) as [number, number, number, number, number, number];
    // The step is one of the first picture's window: it is taken back out of the way there.
    const [e, f, g, h] = [1 + p, q, r, 1 + s];
    const over = e * h - f * g;
    if (!(Math.abs(over) > 0.2)) return null;
    const [ie, jf, ig, ih] = [h / over, -f / over, -g / over, e / over];
    const [iu, iv] = [-(ie * u + jf * v), -(ig * u + ih * v)];
    x += a * iu + b * iv;
    y += c * iu + d * iv;
    [a, b, c, d] = [a * ie + b * ig, a * jf + b * ih, c * ie + d * ig, c * jf + d * ih];
    if (Math.hypot(x - guess.x, y - guess.y) > REACH) return null;
    const stretched = Math.max(Math.hypot(a, c), Math.hypot(b, d));
    const thin = Math.abs(a * d - b * c) / stretched;
    if (stretched > MOST_STRETCH || thin < 1 / MOST_STRETCH) return null;
    if (Math.hypot(iu, iv) < STILL) break;
  }
  return { x, y, axes: [a, b, c, d] };
}

/** Mean and standard deviation. */
export function evenness(values: Float32Array): [mean: number, spread: number] {
  let sum = 0;
  for (const v of values) sum += v;
  const mean = sum / values.length;
  let squares = 0;
  for (const v of values) squares += (v - mean) ** 2;
  return [mean, Math.sqrt(squares / values.length)];
}
