/**
 * An independent reference: double precision, every triangle tested for every ray, no tree, no light sampling, no reuse of
 * the kernel's code. Matte, mirroring, perfectly clear and glossy surfaces, the last two as metal and as plastic. Slow by intent.
 */
import type { TriangleMesh } from '../../geometry';

type V = [number, number, number];

interface ReferencePart {
  mesh: TriangleMesh;
  /** Reflectance of a matte surface. */
  albedo: V;
  /** Radiance of the outer side. */
  emission: V;
  /** A clear solid of this index instead, which takes this much out of a ray per millimetre. */
  glass?: { index: number; absorption: V };
  /** A metal of this reflectance straight on instead; perfectly smooth unless it is rough. */
  metal?: V;
  /** Width of the facets of a metal, or of a clear layer of this index over the matte surface. */
  rough?: { alpha: number; index: number };
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

/**
 * Reflectance of unpolarised light by the amplitudes of its two polarisations (Fresnel, 1823), and the cosine behind the surface;
 * null there where all is reflected.
 */
function fresnel(cosine: number, before: number, behind: number): { reflectance: number; through: number | null } {
  const sine = (before / behind) * Math.sqrt(Math.max(0, 1 - cosine * cosine));
  if (sine >= 1) return { reflectance: 1, through: null };
  const through = Math.sqrt(1 - sine * sine);
  const across = (before * cosine - behind * through) / (before * cosine + behind * through);
  const along = (behind * cosine - before * through) / (behind * cosine + before * through);
  return { reflectance: (across * across + along * along) / 2, through };
}

const lambda = (cosine: number, alpha: number): number =>
  (Math.sqrt(1 + alpha * alpha * (1 / (cosine * cosine) - 1)) - 1) / 2;

/** Part of facets under a cosine from the normal (Walter et al., Microfacet Models for Refraction, 2007, equation 33). */
const facets = (cosine: number, alpha: number): number =>
  (alpha * alpha) / (Math.PI * (cosine * cosine * (alpha * alpha - 1) + 1) ** 2);

/** Cosine of a facet chosen by its part times its cosine (the same, equation 35). */
const facetCosine = (u: number, alpha: number): number => 1 / Math.sqrt(1 + (alpha * alpha * u) / (1 - u));

const STEPS = 64;
const layers = new Map<string, { albedo: (cosine: number) => number; mean: number }>();

/** What a clear rough layer reflects of light under a cosine, and on average over the hemisphere: by plain integration. */
function layerOf({ alpha, index }: { alpha: number; index: number }) {
  const key = `${alpha}/${index}`;
  const known = layers.get(key);
  if (known) return known;
  const table = Array.from({ length: STEPS + 1 }, (_, k) => {
    const o = Math.max(0.005, k / STEPS);
    let sum = 0;
    for (let i = 0; i < 100; i++) {
      for (let j = 0; j < 100; j++) {
        const h = facetCosine((i + 0.5) / 100, alpha);
        const [x, y] = [Math.sqrt(1 - h * h) * Math.cos((Math.PI * (j + 0.5)) / 100), h];
        const oh = Math.sqrt(1 - o * o) * x + o * y;
        const out = 2 * oh * h - o;
        if (oh <= 0 || out <= 0) continue;
        sum += (fresnel(oh, 1, index).reflectance * oh) / (o * h * (1 + lambda(o, alpha) + lambda(out, alpha)));
      }
    }
    return sum / 10_000;
  });
  const albedo = (cosine: number) => {
    const at = Math.min(STEPS - 1, Math.floor(cosine * STEPS));
    return table[at]! + (table[at + 1]! - table[at]!) * (cosine * STEPS - at);
  };
  let mean = 0;
  for (let k = 0; k < 1000; k++) mean += (2 * ((k + 0.5) / 1000) * albedo((k + 0.5) / 1000)) / 1000;
  const layer = { albedo, mean };
  layers.set(key, layer);
  return layer;
}

/** A direction from a glossy surface, with what it carries; null where it would lead into it. */
function glossyBounce(part: ReferencePart, n: V, d: V, random: () => number): { d: V; carried: V } | null {
  const { alpha, index } = part.rough!;
  const o = -dot(n, d);
  const side = unit(Math.abs(n[0]) < 0.5 ? cross(n, [1, 0, 0]) : cross(n, [0, 1, 0]));
  const other = cross(n, side);
  // By its facets or, where it is matte below, half of the time evenly by cosine.
  const matte = part.metal ? 0 : 0.5;
  const h = facetCosine(random(), alpha);
  const [phi, r] = [2 * Math.PI * random(), Math.sqrt(1 - h * h)];
  const facet = n.map((v, k) => h * v + r * (Math.cos(phi) * side[k]! + Math.sin(phi) * other[k]!)) as V;
  const along = -dot(facet, d);
  let out = d.map((v, k) => v + 2 * along * facet[k]!) as V;
  if (random() < matte) {
    const [u, turn] = [random(), 2 * Math.PI * random()];
    const [a, b] = [Math.sqrt(u) * Math.cos(turn), Math.sqrt(u) * Math.sin(turn)];
    out = n.map((v, k) => Math.sqrt(1 - u) * v + a * side[k]! + b * other[k]!) as V;
  }
  const i = dot(n, out);
  if (i <= 0) return null;
  const half = unit([out[0] - d[0], out[1] - d[1], out[2] - d[2]]);
  const [hn, oh] = [dot(half, n), -dot(half, d)];
  const shape = facets(hn, alpha);
  const density = (1 - matte) * ((shape * hn) / (4 * oh)) + (matte * i) / Math.PI;
  const lobe = shape / (4 * o * (1 + lambda(o, alpha) + lambda(i, alpha)));
  const carried = [0, 1, 2].map((k) => {
    if (part.metal) return (lobe * (part.metal[k]! + (1 - part.metal[k]!) * (1 - oh) ** 5)) / density;
    const { albedo, mean } = layerOf({ alpha, index });
    const below = (((1 - albedo(o)) * (1 - albedo(i))) / (1 - mean)) * (part.albedo[k]! / Math.PI) * i;
    return (lobe * fresnel(oh, 1, index).reflectance + below) / density;
  }) as V;
  return { d: out, carried };
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
  let inside: ReferencePart | null = null;
  const light: V = [0, 0, 0];
  const through: V = [1, 1, 1];
  for (let bounce = 0; ; bounce++) {
    const hit = nearest(scene, o, d);
    if (hit && inside?.glass) for (let k = 0; k < 3; k++) through[k]! *= Math.exp(-inside.glass.absorption[k]! * hit.t);
    const found = hit ? (dot(hit.normal, d) < 0 ? hit.part.emission : ([0, 0, 0] as V)) : scene.surroundings(d);
    for (let k = 0; k < 3; k++) light[k]! += through[k]! * found[k]!;
    if (!hit || bounce >= depth) return light;
    const outer = dot(hit.normal, d) < 0;
    const n: V = outer ? hit.normal : [-hit.normal[0], -hit.normal[1], -hit.normal[2]];
    const cosine = -dot(n, d);
    const place = o.map((v, k) => v + hit.t * d[k]!);
    const mirrored = d.map((v, k) => v + 2 * cosine * n[k]!) as V;
    let side = 1;
    if (hit.part.rough) {
      const next = glossyBounce(hit.part, n, d, random);
      if (!next) return light;
      d = next.d;
      for (let k = 0; k < 3; k++) through[k]! *= next.carried[k]!;
    } else if (hit.part.metal) {
      for (let k = 0; k < 3; k++) {
        const base = hit.part.metal[k]!;
        through[k]! *= base + (1 - base) * (1 - cosine) ** 5;
      }
      d = mirrored;
    } else if (hit.part.glass) {
      const { index } = hit.part.glass;
      const [before, behind] = outer ? [1, index] : [index, 1];
      const { reflectance, through: beyond } = fresnel(cosine, before, behind);
      if (beyond === null || random() < reflectance) d = mirrored;
      else {
        const ratio = before / behind;
        d = unit(d.map((v, k) => ratio * v + (ratio * cosine - beyond) * n[k]!) as V);
        // Radiance over the square of the index is what stays the same along a ray.
        for (let k = 0; k < 3; k++) through[k]! *= ratio * ratio;
        inside = outer ? hit.part : null;
        side = -1;
      }
    } else {
      // Cosine weighted: a point of the unit sphere added to the normal.
      const z = 2 * random() - 1;
      const phi = 2 * Math.PI * random();
      const r = Math.sqrt(1 - z * z);
      d = unit([n[0] + r * Math.cos(phi), n[1] + r * Math.sin(phi), n[2] + z]);
      for (let k = 0; k < 3; k++) through[k]! *= hit.part.albedo[k]!;
    }
    o = place.map((v, k) => v + side * 1e-7 * n[k]!) as V;
  }
}
