import { inMeshKernel } from '@zippy/kernel/mesh';
import { regions, trianglesOfRegions, type Regions, type Sides } from './adjacency';
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
 * @param sides what lies across each side, by welded places
 * @param shells regions of triangles that hang together over their sides
 */
export function findOrientation(
  positions: Float32Array,
  indices: Uint32Array,
  corners: Uint32Array,
  { across, agree }: Pick<Sides, 'across' | 'agree'>,
  shells: Regions = regions(across),
): Orientation {
  const triangles = indices.length / 3;
  const turned = new Uint8Array(triangles);
  const { regions: region, count } = shells;
  let mixed = 0;
  if (!agree) {
    agreeWithNeighbours(corners, across, turned);
    mixed = turnTheFewer(turned, shells);
  }
  const { size, closed, volume, reach } = shellSums(positions, indices, across, turned, region, count);
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

/** What is known of shells as a whole, by their numbers. */
interface ShellSums {
  /** How many triangles each has. */
  size: Uint32Array;
  /** 1 where each side of each of its triangles lies at one other. */
  closed: Uint8Array;
  /** Six times the volume it bounds, and the same of all of its triangles' parts without their sign. */
  volume: Float64Array;
  reach: Float64Array;
}

function shellSums(
  positions: Float32Array,
  indices: Uint32Array,
  across: Int32Array,
  turned: Uint8Array,
  region: Uint32Array,
  count: number,
): ShellSums {
  const [size, closed] = [new Uint32Array(count), new Uint8Array(count)];
  const [volume, reach] = [new Float64Array(count), new Float64Array(count)];
  inMeshKernel((kernel) => {
    const sums = kernel.room(count * SHELL_BYTES, 0);
    const mesh = [kernel.put(positions), kernel.put(indices), kernel.put(across)] as const;
    kernel.passes.shellVolumes(...mesh, kernel.put(turned), kernel.put(region), indices.length / 3, sums);
    const doubles = kernel.doubles(sums, count * 3);
    const numbers = kernel.numbers(sums, count * 6);
    for (let of = 0; of < count; of++) {
      volume[of] = doubles[of * 3]!;
      reach[of] = doubles[of * 3 + 1]!;
      size[of] = numbers[of * 6 + 4]!;
      closed[of] = numbers[of * 6 + 5] === 0 ? 1 : 0;
    }
  });
  return { size, closed, volume, reach };
}

/** See `shellVolumes` of the kernel. */
const SHELL_BYTES = 24;

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
