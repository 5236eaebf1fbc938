import type { TriangleMesh } from '../sweep';
import { Grids } from './grids';

/** Steps round a whole turn: a silhouette stays within a three-thousandth of its radius of round. */
export const TURN = 128;
/** Steps round a quarter of a bevel or curve. */
export const QUARTER = 12;

/** Distance from the axis, height, and the normal in these two directions. */
export type ProfilePoint = [number, number, number, number];

/** An arc of a profile round (r, y), counter-clockwise; nothing where it has no size. */
export function arc(r: number, y: number, radius: number, from: number, to: number, steps = QUARTER): ProfilePoint[][] {
  if (radius <= 0) return [];
  return [
    Array.from({ length: steps + 1 }, (_, k) => {
      const angle = from + (k / steps) * (to - from);
      const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
      return [Math.max(0, r + radius * cos), y + radius * sin, cos, sin];
    }),
  ];
}

/** Turns strips of a profile about the vertical; each becomes a face. Strips run upwards on the outside. */
export function lathe(strips: ProfilePoint[][]): TriangleMesh {
  const made = new Grids();
  for (const points of strips) {
    if (points.every(([r]) => r === 0)) continue;
    made.add(TURN, points.length - 1, (u, v) => {
      const [r, y, nr, ny] = points[Math.round(v * (points.length - 1))]!;
      const [cos, sin] = [Math.cos(u * 2 * Math.PI), -Math.sin(u * 2 * Math.PI)];
      return [r * cos, y, r * sin, nr * cos, ny, nr * sin];
    });
  }
  return made.finish();
}
