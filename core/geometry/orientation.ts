import { regions, sidesAgree, trianglesOfRegions, type Regions } from './adjacency';
import { MeshRays } from './meshRays';
import { cross, frameAlong, normalize, scale, subtract, type Vector } from './vector';

/** Which triangles face the wrong way. */
export interface Orientation {
  /** One byte a triangle: 1 where it must be turned over. */
  turned: Uint8Array;
  /** Triangles that faced otherwise than most of their neighbours. */
  mixed: number;
  /** Triangles of shells that were inside out as a whole. */
  inverted: number;
}

/** Sides tried of an open shell, and rays from each. */
const VOTERS = 96;
const RAYS = 6;
/** How many more rays must get away from the back than from the front before an open shell counts as inside out. */
const MARGIN = 1.3;

/**
 * Finds triangles that face inwards. Triangles of one shell are made to agree first. A closed shell faces outwards when the
 * volume it bounds is positive; one that lies inside another may bound a cavity and is left alone. Of an open shell, the
 * side from which more rays get away is the outer one; where both see as much, it stays as it is.
 * @param indices three vertices a triangle
 * @param across what lies across each side, by welded places
 * @param shells regions of triangles that hang together over their sides
 */
export function findOrientation(
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  across: Int32Array,
  shells: Regions = regions(across),
): Orientation {
  const triangles = indices.length / 3;
  const turned = new Uint8Array(triangles);
  const { regions: region, count } = shells;
  let mixed = 0;
  if (!sidesAgree(corners, across)) {
    agreeWithNeighbours(corners, across, turned);
    mixed = turnTheFewer(turned, shells);
  }
  const size = new Uint32Array(count);
  const closed = new Uint8Array(count).fill(1);
  const volume = new Float64Array(count);
  const reach = new Float64Array(count);
  for (let t = 0; t < triangles;) {
    // Neighbours in the file are mostly of one shell, and are summed together.
    const of = region[t]!;
    const begin = t;
    let open = 0;
    let sum = 0;
    let absolute = 0;
    for (; t < triangles && region[t] === of; t++) {
      open |= across[t * 3]! | across[t * 3 + 1]! | across[t * 3 + 2]!;
      const part = volumeOf(positions, indices, t);
      sum += turned[t] ? -part : part;
      absolute += Math.abs(part);
    }
    size[of]! += t - begin;
    if (open < 0) closed[of] = 0;
    volume[of]! += sum;
    reach[of]! += absolute;
  }
  let rays: MeshRays | null = null;
  let members: ReturnType<typeof trianglesOfRegions> | null = null;
  const outward = new Int8Array(count).fill(1);
  for (let of = 0; of < count; of++) {
    if (closed[of]) {
      if (volume[of]! >= -1e-9 * reach[of]!) continue;
      if (count > 1) {
        rays ??= new MeshRays(positions, indices);
        members ??= trianglesOfRegions(region, count);
        if (liesInside(rays, positions, indices, members.list[members.begins[of]!]!, region, closed)) continue;
      }
      outward[of] = -1;
    } else if (size[of]! >= 2) {
      rays ??= new MeshRays(positions, indices);
      members ??= trianglesOfRegions(region, count);
      const shell = members.list.subarray(members.begins[of], members.begins[of + 1]);
      if (!frontSeesMore(rays, positions, indices, turned, shell)) outward[of] = -1;
    }
  }
  let inverted = 0;
  for (let t = 0; t < triangles; t++) {
    if (outward[region[t]!] === 1) continue;
    turned[t]! ^= 1;
    inverted++;
  }
  return { turned, mixed, inverted };
}

/** Takes whichever way most of a shell's triangles were for its way. @returns how many were otherwise */
function turnTheFewer(turned: Uint8Array, { regions: region, count }: Regions): number {
  const turnedOf = new Uint32Array(count);
  const size = new Uint32Array(count);
  for (let t = 0; t < turned.length; t++) {
    turnedOf[region[t]!]! += turned[t]!;
    size[region[t]!]!++;
  }
  let mixed = 0;
  for (let of = 0; of < count; of++) mixed += Math.min(turnedOf[of]!, size[of]! - turnedOf[of]!);
  for (let t = 0; t < turned.length; t++) if (turnedOf[region[t]!]! * 2 > size[region[t]!]!) turned[t]! ^= 1;
  return mixed;
}

/** Marks triangles so that, once those are turned, neighbours pass their common sides in opposite directions. */
function agreeWithNeighbours(corners: Uint32Array, across: Int32Array, turned: Uint8Array): void {
  const seen = new Uint8Array(turned.length);
  const waiting = new Uint32Array(turned.length);
  for (let start = 0; start < turned.length; start++) {
    if (seen[start]) continue;
    seen[start] = 1;
    waiting[0] = start;
    for (let end = 1; end > 0;) {
      const triangle = waiting[--end]!;
      for (let side = triangle * 3; side < triangle * 3 + 3; side++) {
        const other = across[side]!;
        const next = (other / 3) | 0;
        if (other < 0 || seen[next]) continue;
        seen[next] = 1;
        turned[next] = turned[triangle]! ^ (corners[side] === corners[other] ? 1 : 0);
        waiting[end++] = next;
      }
    }
  }
}

const corner = (positions: Float32Array, indices: Uint32Array, at: number): Vector => {
  const vertex = indices[at]! * 3;
  return [positions[vertex]!, positions[vertex + 1]!, positions[vertex + 2]!];
};

/** Six times the signed volume between a triangle and the origin. */
function volumeOf(p: Float32Array, indices: Uint32Array, triangle: number): number {
  const a = indices[triangle * 3]! * 3;
  const b = indices[triangle * 3 + 1]! * 3;
  const c = indices[triangle * 3 + 2]! * 3;
  return (
    p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
    p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
    p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!)
  );
}

/** Whether a triangle's shell lies within an odd number of other closed shells. */
function liesInside(
  rays: MeshRays,
  positions: Float32Array,
  indices: Uint32Array,
  triangle: number,
  region: Uint32Array,
  closed: Uint8Array,
): boolean {
  const { center } = faceOf(positions, indices, triangle, false);
  // A direction along no axis hits no edge of what was built on a grid.
  const crossed = rays.crossings(center, [0.5377, 0.3891, 0.7479]);
  const others = crossed.filter((other) => region[other] !== region[triangle] && closed[region[other]!]);
  return others.length % 2 === 1;
}

function faceOf(positions: Float32Array, indices: Uint32Array, triangle: number, turned: boolean) {
  const [a, b, c] = [0, 1, 2].map((k) => corner(positions, indices, triangle * 3 + k)) as [Vector, Vector, Vector];
  const center = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as [number, number, number];
  const [u, v] = [subtract(b, a), subtract(c, a)];
  const normal = normalize(cross(u, v));
  const size = Math.hypot(...u) + Math.hypot(...v);
  return { center, size, normal: turned ? scale(normal, -1) : normal };
}

/** Whether no more rays get away from the back of an open shell than from its front. */
function frontSeesMore(
  rays: MeshRays,
  positions: Float32Array,
  indices: Uint32Array,
  turned: Uint8Array,
  shell: Uint32Array,
): boolean {
  const step = Math.max(1, Math.floor(shell.length / VOTERS));
  const away = [0, 0];
  for (let at = 0; at < shell.length; at += step) {
    const t = shell[at]!;
    const face = faceOf(positions, indices, t, turned[t] === 1);
    const frame = frameAlong(face.normal);
    for (let ray = 0; ray < RAYS; ray++) {
      const around = (ray / RAYS) * 2 * Math.PI + t;
      const height = Math.sqrt((ray + 0.5) / RAYS);
      const flat = Math.sqrt(1 - height * height);
      for (const side of [0, 1]) {
        const up = side === 0 ? height : -height;
        const [p, q] = [Math.cos(around) * flat, Math.sin(around) * flat];
        const direction = [0, 1, 2].map((k) => frame.x[k]! * p + frame.y[k]! * q + frame.z[k]! * up) as Vector &
          number[];
        const from = [0, 1, 2].map((k) => face.center[k]! + direction[k]! * face.size * 1e-4) as Vector & number[];
        if (rays.escapes(from, direction)) away[side]!++;
      }
    }
  }
  return away[1]! <= away[0]! * MARGIN + RAYS;
}
