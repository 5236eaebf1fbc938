import type { StudioSet } from '../../document';
import { floorMesh, quaternionAbout, rotateVector, sweepMesh, type TriangleMesh, type Vector } from '../../geometry';
import { rayThrough, type Seen } from './seen';

/** Places along the edge of the picture that are looked at, -1 to 1. */
const EDGE = 0.985;
const PLACES: [number, number][] = [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1].flatMap((at): [number, number][] => [
  [at * EDGE, EDGE],
  [at * EDGE, -EDGE],
  [EDGE, at * EDGE],
  [-EDGE, at * EDGE],
]);

/** Says of a view whether the edge of the floor or sweep is in it; null where the set has neither. */
export function backdropEdge({ floor }: StudioSet): ((seen: Seen) => boolean) | null {
  if (floor.kind === 'none') return null;
  const mesh = floor.kind === 'floor' ? floorMesh(floor.size) : sweepMesh(floor.size, floor.depth);
  const back = quaternionAbout([0, 1, 0], -floor.turn);
  return (seen) => {
    let [met, missed] = [false, false];
    for (const [x, y] of PLACES) {
      const { origin, direction } = rayThrough(seen, x, y);
      const turned = rotateVector(direction, back);
      // Of a flat floor what lies above the horizon is no fault.
      if (floor.kind === 'floor' && turned[1] > -1e-3) continue;
      if (meets(mesh, rotateVector(origin, back), turned)) met = true;
      else missed = true;
    }
    return met && missed;
  };
}

/** Whether a ray meets a triangle of a mesh (Möller and Trumbore, Fast, minimum storage ray-triangle intersection, 1997). */
function meets({ positions, indices }: TriangleMesh, origin: Vector, direction: Vector): boolean {
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [3 * indices[at]!, 3 * indices[at + 1]!, 3 * indices[at + 2]!];
    const [ax, ay, az] = [positions[a]!, positions[a + 1]!, positions[a + 2]!];
    const [e1x, e1y, e1z] = [positions[b]! - ax, positions[b + 1]! - ay, positions[b + 2]! - az];
    const [e2x, e2y, e2z] = [positions[c]! - ax, positions[c + 1]! - ay, positions[c + 2]! - az];
    const px = direction[1] * e2z - direction[2] * e2y;
    const py = direction[2] * e2x - direction[0] * e2z;
    const pz = direction[0] * e2y - direction[1] * e2x;
    const det = e1x * px + e1y * py + e1z * pz;
    if (Math.abs(det) < 1e-12) continue;
    const [tx, ty, tz] = [origin[0] - ax, origin[1] - ay, origin[2] - az];
    const u = (tx * px + ty * py + tz * pz) / det;
    if (u < 0 || u > 1) continue;
    const qx = ty * e1z - tz * e1y;
    const qy = tz * e1x - tx * e1z;
    const qz = tx * e1y - ty * e1x;
    const v = (direction[0] * qx + direction[1] * qy + direction[2] * qz) / det;
    if (v >= 0 && u + v <= 1 && (e2x * qx + e2y * qy + e2z * qz) / det > 1e-6) return true;
  }
  return false;
}
