import type { Grey } from './pyramid';
import type { Spot } from './spot';

/** Half the edge of the window in which a place has to have edges in both directions. */
const WINDOW = 4;
/** What a place may have at least, against the best one. */
const LEAST_PART = 0.02;

/**
 * Places of a picture that can be told from what is around them, the best first and none close to another (Shi and Tomasi, Good Features
 * to Track, 1994).
 * @param apart pixels between them at least
 * @param taken places near which there is none needed
 */
export function bestSpots(
  { width, height, values }: Grey,
  most: number,
  apart: number,
  taken: readonly Spot[] = [],
): Spot[] {
  const [xx, xy, yy] = [0, 0, 0].map(() => new Float64Array((width + 1) * (height + 1))) as [Float64Array, Float64Array, Float64Array]; // prettier-ignore
  // Sums over all above and to the left, so that any window is four of them.
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const gx = x > 0 && x < width - 1 ? (values[k + 1]! - values[k - 1]!) / 2 : 0;
      const gy = y > 0 && y < height - 1 ? (values[k + width]! - values[k - width]!) / 2 : 0;
      const at = (y + 1) * (width + 1) + x + 1;
      const sum = (of: Float64Array, own: number) =>
        (of[at] = own + of[at - 1]! + of[at - width - 1]! - of[at - width - 2]!);
      sum(xx, gx * gx);
      sum(xy, gx * gy);
      sum(yy, gy * gy);
    }
  }
  const edge = Math.max(WINDOW, Math.round(apart / 2));
  const found: (Spot & { worth: number })[] = [];
  for (let y = edge; y < height - edge; y += 2) {
    for (let x = edge; x < width - edge; x += 2) {
      const within = (of: Float64Array) => {
        const [top, low] = [(y - WINDOW) * (width + 1), (y + WINDOW + 1) * (width + 1)];
        const [left, right] = [x - WINDOW, x + WINDOW + 1];
        return of[low + right]! - of[low + left]! - of[top + right]! + of[top + left]!;
      };
      const [a, b, c] = [within(xx), within(xy), within(yy)];
      found.push({ x, y, worth: (a + c - Math.hypot(a - c, 2 * b)) / 2 });
    }
  }
  found.sort((a, b) => b.worth - a.worth);
  const least = (found[0]?.worth ?? 0) * LEAST_PART;
  const chosen: Spot[] = [];
  for (const { x, y, worth } of found) {
    if (chosen.length >= most || worth <= least) break;
    if ([...chosen, ...taken].every((other) => Math.hypot(other.x - x, other.y - y) >= apart)) chosen.push({ x, y });
  }
  return chosen;
}
