import { greyAt, type Grey } from './pyramid';
import type { Spot } from './spot';

/** Half the edge of what is looked at, in pixels. */
const REACH = 6;
/** Pixels that a mark may be off. */
const MOST_OFF = 3;

/**
 * The corner that a mark is meant to be on: the place to which all edges around it lead (Förstner and Gülch, A Fast Operator for
 * Detection and Precise Location of Distinct Points, 1987).
 * @returns the mark itself where there is no corner close to it
 */
export function snapToCorner(grey: Grey, mark: Spot): Spot {
  let at = mark;
  for (let round = 0; round < 20; round++) {
    let [xx, xy, yy, bx, by] = [0, 0, 0, 0, 0];
    for (let j = -REACH; j <= REACH; j++) {
      for (let i = -REACH; i <= REACH; i++) {
        const [x, y] = [at.x + i, at.y + j];
        const gx = (greyAt(grey, x + 1, y) - greyAt(grey, x - 1, y)) / 2;
        const gy = (greyAt(grey, x, y + 1) - greyAt(grey, x, y - 1)) / 2;
        const weight = Math.exp(-(i * i + j * j) / (0.5 * REACH * REACH));
        const [a, b, c] = [weight * gx * gx, weight * gx * gy, weight * gy * gy];
        xx += a;
        xy += b;
        yy += c;
        bx += a * i + b * j;
        by += b * i + c * j;
      }
    }
    const determinant = xx * yy - xy * xy;
    // Along a single edge any place would do.
    if (determinant < 0.02 * (xx + yy) ** 2) return mark;
    const [dx, dy] = [(yy * bx - xy * by) / determinant, (xx * by - xy * bx) / determinant];
    at = { x: at.x + dx, y: at.y + dy };
    if (Math.hypot(at.x - mark.x, at.y - mark.y) > MOST_OFF) return mark;
    if (Math.hypot(dx, dy) < 0.002) break;
  }
  return at;
}
