/**
 * An independent reference: double precision, every triangle tested for every ray, no tree, no light sampling, no reuse of
 * the kernel's code. Matte and perfectly clear surfaces only. Slow by intent.
 */
import type { TriangleMesh } from '../../geometry';

type V = [number, number, number];

export interface ReferencePart {
  mesh: TriangleMesh;
  /** Reflectance of a matte surface. */
  albedo: V;
  /** Radiance of the outer side. */
  emission: V;
}

export interface ReferenceScene {
  parts: ReferencePart[];
  /** Radiance from a direction that meets nothing. */
  surroundings: (direction: V) => V;
}

const dot = (a: V, b: V): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const minus = (a: V, b: V): V => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const cross = (a: V, b: V): V => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (a: V): V => {
  const size = Math.sqrt(dot(a, a));
  return [a[0] / size, a[1] / size, a[2] / size];
};
const corner = ({ positions, indices }: TriangleMesh, at: number): V => {
  const v = indices[at]! * 3;
  return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
};

interface Hit {
  t: number;
  part: ReferencePart;
  normal: V;
}

/** Nearest hit over all triangles (Möller and Trumbore, Fast Minimum Storage Ray/Triangle Intersection, 1997). */
function nearest(scene: ReferenceScene, o: V, d: V): Hit | null {
  let hit: Hit | null = null;
  for (const part of scene.parts) {
    for (let at = 0; at < part.mesh.indices.length; at += 3) {
      const a = corner(part.mesh, at);
      const e1 = minus(corner(part.mesh, at + 1), a);
      const e2 = minus(corner(part.mesh, at + 2), a);
      const p = cross(d, e2);
      const det = dot(e1, p);
      if (Math.abs(det) < 1e-14) continue;
      const s = minus(o, a);
      const u = dot(s, p) / det;
      const q = cross(s, e1);
      const v = dot(d, q) / det;
      const t = dot(e2, q) / det;
      if (u < 0 || v < 0 || u + v > 1 || t < 1e-6 || (hit && t >= hit.t)) continue;
      hit = { t, part, normal: unit(cross(e1, e2)) };
    }
  }
  return hit;
}

/** Radiance along a ray by one random walk of at most `depth` bounces. */
export function referenceRadiance(
  scene: ReferenceScene,
  origin: V,
  direction: V,
  depth: number,
  random: () => number,
): V {
  let o = origin;
  let d = unit(direction);
  const light: V = [0, 0, 0];
  const through: V = [1, 1, 1];
  for (let bounce = 0; ; bounce++) {
    const hit = nearest(scene, o, d);
    const found = hit ? (dot(hit.normal, d) < 0 ? hit.part.emission : ([0, 0, 0] as V)) : scene.surroundings(d);
    for (let k = 0; k < 3; k++) light[k]! += through[k]! * found[k]!;
    if (!hit || bounce >= depth) return light;
    const n: V = dot(hit.normal, d) < 0 ? hit.normal : [-hit.normal[0], -hit.normal[1], -hit.normal[2]];
    o = [0, 1, 2].map((k) => o[k]! + hit.t * d[k]! + 1e-7 * n[k]!) as V;
    // Cosine weighted: a point of the unit sphere added to the normal.
    const z = 2 * random() - 1;
    const phi = 2 * Math.PI * random();
    const r = Math.sqrt(1 - z * z);
    d = unit([n[0] + r * Math.cos(phi), n[1] + r * Math.sin(phi), n[2] + z]);
    for (let k = 0; k < 3; k++) through[k]! *= hit.part.albedo[k]!;
  }
}
