import { smoothNormals, type TriangleMesh } from '../geometry';

/** Of the block; the radius that its wall is bent with, how thin the wall gets, and how its edges are rounded, in mm. */
const LEFT = -30;
const BEND = 8;
const THICK = 13;
const RADIUS = 23;
const THIN = 2.2;
const HALF_DEPTH = 20;
const EDGE = 1.1;
const STEPS = 8;
const QUARTER = Math.PI / 2;
/** How far round the wall goes. */
const END = 1.05 * Math.PI;

type Place = [number, number];
/** Places of the profile that lie across from each other: on its outer side, and on its inner one. */
type Pair = [outer: Place, inner: Place];

/** From the block's flat end to the tip of the wall. */
function profile(): Pair[] {
  const pairs: Pair[] = [];
  for (let k = 0; k <= STEPS; k++) {
    const angle = (k / STEPS) * QUARTER;
    const [x, inset] = [LEFT + EDGE * (1 - Math.cos(angle)), EDGE * (1 - Math.sin(angle))];
    pairs.push([
      [x, inset],
      [x, THICK - inset],
    ]);
  }
  for (let k = 1; k <= 8; k++) {
    const x = LEFT + EDGE + ((BEND - LEFT - EDGE) * k) / 8;
    pairs.push([
      [x, 0],
      [x, THICK],
    ]);
  }
  const at = (angle: number, r: number): Place => [BEND + r * Math.sin(angle), RADIUS - r * Math.cos(angle)];
  for (let k = 1; k <= 80; k++) {
    const wall = THIN + (THICK - THIN) * (0.5 + 0.5 * Math.cos(Math.PI * (k / 80) ** 0.8)) ** 1.3;
    pairs.push([at((k / 80) * END, RADIUS), at((k / 80) * END, RADIUS - wall)]);
  }
  // The tip is round.
  const middle = RADIUS - THIN / 2;
  for (let k = 1; k <= STEPS; k++) {
    const angle = (k / STEPS) * QUARTER * 0.98;
    const half = (THIN / 2) * Math.cos(angle);
    const turned = END + ((THIN / 2) * Math.sin(angle)) / middle;
    pairs.push([at(turned, middle + half), at(turned, middle - half)]);
  }
  return pairs;
}

/**
 * What finishes are shown on: a block that bends up into a wall, which curls over and gets thinner towards its tip. It has a flat top,
 * rounded edges, a hollow, a wide curve, and walls from 13 to 2 mm for light to come through. Stands on y = 0, its profile across z.
 */
export function sampleBody(): TriangleMesh {
  const pairs = profile();
  const outline = [...pairs.map(([outer]) => outer), ...pairs.map(([, inner]) => inner).reverse()];
  const count = outline.length;
  const inward = outline.map((_, k): Place => {
    const [a, b] = [outline[(k + count - 1) % count]!, outline[(k + 1) % count]!];
    const size = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return [-(b[1] - a[1]) / size, (b[0] - a[0]) / size];
  });
  // Where the wall is thin its edges are rounded less.
  const rounded = outline.map((_, k) => {
    const [outer, inner] = pairs[k < pairs.length ? k : count - 1 - k]!;
    return Math.min(1, Math.hypot(outer[0] - inner[0], outer[1] - inner[1]) / (2.6 * EDGE));
  });
  const quarter = Array.from({ length: STEPS + 1 }, (_, k) => (k / STEPS) * QUARTER);
  const rings = quarter.map((angle) => ({
    z: HALF_DEPTH - EDGE * (1 - Math.cos(angle)),
    inset: EDGE * (1 - Math.sin(angle)),
  }));
  const all = [...rings, ...rings.toReversed().map(({ z, inset }) => ({ z: -z, inset }))];
  const positions = all.flatMap(({ z, inset }) =>
    outline.flatMap(([x, y], k) => {
      const by = inset * rounded[k]!;
      return [x + inward[k]![0] * by, y + inward[k]![1] * by, z];
    }),
  );
  const indices: number[] = [];
  for (let ring = 0; ring + 1 < all.length; ring++) {
    for (let k = 0; k < count; k++) {
      const [a, b] = [ring * count + k, ring * count + ((k + 1) % count)];
      indices.push(a, a + count, b, b, a + count, b + count);
    }
  }
  const last = (all.length - 1) * count;
  for (let k = 0; k + 1 < pairs.length; k++) {
    const [a, b, c, d] = [k, k + 1, count - 1 - k, count - 2 - k];
    indices.push(a, b, c, b, d, c, last + a, last + c, last + b, last + b, last + c, last + d);
  }
  const mesh = { positions: new Float32Array(positions), indices: new Uint32Array(indices) };
  return { ...mesh, normals: smoothNormals(mesh.positions, mesh.indices) };
}
