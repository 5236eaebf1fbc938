import { inMeshKernel, type MeshKernel } from '@zippy/kernel/mesh';

/** What lies across a side of a triangle: another side's number, nothing, or several triangles. */
export const OPEN = -1;
export const CROWDED = -2;

/** What is known of the sides of a mesh's triangles. Side `3 t + k` of triangle `t` runs from its corner k to its corner k + 1. */
export interface Sides {
  /** For each side the number of the one side that shares it, `OPEN` at a border, `CROWDED` where more than two meet. */
  across: Int32Array;
  /** The numbers of the sides with nothing across. */
  open: Uint32Array;
  /** All triangles pass the sides they share in opposite directions. */
  agree: boolean;
  /** The numbers of triangles that may have a twin with the same places: each of their sides lies at the twin's or is crowded. */
  likeTwins: Uint32Array;
}

/**
 * Finds what lies across the sides of triangles.
 * @param corners three place numbers a triangle, as welded
 * @param again sides of which it is found again, and what was found before: none but these may have other ends
 */
export function sidesOf(corners: Uint32Array, again?: { sides: Uint32Array; across: Int32Array }): Sides {
  const sides = corners.length;
  return inMeshKernel((kernel) => {
    const { passes } = kernel;
    const own = kernel.put(corners);
    const list = again ? kernel.put(again.sides) : 0;
    const across = again ? kernel.put(again.across) : kernel.room(sides * 4, BYTE_OF_OPEN);
    const found = kernel.integers(across, sides);
    if (again) for (const side of again.sides) found[side] = OPEN;
    const places = passes.countTo(own, sides);
    const heads = kernel.room(places * 4, BYTE_OF_OPEN);
    const lengths = kernel.room(places, 0);
    // Lists take the room of chains, which are not looked at any more then.
    const chain = kernel.room((sides + 1) * 4);
    const count = again ? again.sides.length : sides;
    passes.findSides(own, list, count, sides, across, heads, chain, lengths, kernel.spare);
    const open = kernel.numbers(chain, passes.openSides(across, sides, chain)).slice();
    const likeTwins = kernel.numbers(chain, passes.likeTwins(own, across, sides / 3, chain)).slice();
    const agree = passes.sidesAgree(own, across, sides) !== 0;
    return { across: kernel.integers(across, sides).slice(), open, agree, likeTwins };
  });
}

/** What lies across each side; see `Sides`. */
export const acrossSides = (corners: Uint32Array, again?: Parameters<typeof sidesOf>[1]): Int32Array =>
  sidesOf(corners, again).across;

/** The numbers of sides of which an end is marked. @param marks a byte a place */
export const markedSides = (corners: Uint32Array, marks: Uint8Array): Uint32Array =>
  inMeshKernel((kernel) => {
    const out = kernel.room(corners.length * 4);
    const count = kernel.passes.markedSides(kernel.put(corners), corners.length / 3, kernel.put(marks), out);
    return kernel.numbers(out, count).slice();
  });

/** A number of four such bytes is `OPEN`. */
const BYTE_OF_OPEN = 0xff;

/** Regions of triangles: that of each one, numbered by its first triangle, and how many there are. */
export interface Regions {
  regions: Uint32Array;
  count: number;
}

/**
 * Numbers the regions of triangles that hang together over sides that two share.
 * @param parts smaller regions that are known to hang together, which are then joined instead of triangles
 */
export function regions(across: Int32Array, parts?: Regions): Regions {
  if (parts?.count === 1) return parts;
  return inMeshKernel((kernel) => {
    const count = parts ? parts.count : across.length / 3;
    const parent = kernel.room(count * 4);
    kernel.passes.eachAlone(parent, count);
    const of = parts ? kernel.put(parts.regions) : 0;
    kernel.passes.joinAcross(kernel.put(across), across.length, of, parent);
    const numbers = numberedSets(kernel, parent, count);
    if (!parts) return numbers;
    return { regions: parts.regions.map((part) => numbers.regions[part]!), count: numbers.count };
  });
}

/** The numbers of sets that have been joined in the kernel's memory, counted by their least members. */
export function numberedSets(kernel: MeshKernel, parent: number, count: number): Regions {
  const out = kernel.room(count * 4);
  const sets = kernel.passes.numberSets(parent, count, out);
  return { regions: kernel.numbers(out, count).slice(), count: sets };
}

/** The triangles of each region: those of region r stand in `list` from `begins[r]` to before `begins[r + 1]`. */
export function trianglesOfRegions(regions: Uint32Array, count: number): { list: Uint32Array; begins: Uint32Array } {
  const begins = new Uint32Array(count + 2);
  for (const region of regions) begins[region + 2]!++;
  for (let r = 2; r < begins.length; r++) begins[r]! += begins[r - 1]!;
  // Each region's begin is counted up to the next one's while the list fills.
  const list = new Uint32Array(regions.length);
  for (let t = 0; t < regions.length; t++) list[begins[regions[t]! + 1]!++] = t;
  return { list, begins };
}

/**
 * Loose shells: triangles that hang together over shared places, crowded edges and touching corners included.
 * @returns shell of each triangle, numbered by its first one, and how many there are
 */
export function shells(corners: Uint32Array, places: number): Regions {
  const triangles = corners.length / 3;
  const ofPlaces = inMeshKernel((kernel) => {
    const parent = kernel.room(places * 4);
    kernel.passes.eachAlone(parent, places);
    kernel.passes.joinCorners(kernel.put(corners), triangles, parent);
    return numberedSets(kernel, parent, places);
  });
  const numbers = new Int32Array(ofPlaces.count).fill(-1);
  const regions = new Uint32Array(triangles);
  let count = 0;
  for (let t = 0; t < triangles; t++) {
    const set = ofPlaces.regions[corners[t * 3]!]!;
    if (numbers[set] === -1) numbers[set] = count++;
    regions[t] = numbers[set]!;
  }
  return { regions, count };
}
