/** What lies across a side of a triangle: another side's number, nothing, or several triangles. */
export const OPEN = -1;
export const CROWDED = -2;

/**
 * The side across each side of each triangle. Side `3 t + k` of triangle `t` runs from its corner k to its corner k + 1.
 * @param corners three place numbers a triangle, as welded
 * @param again sides of which it is found again, and what was found before, which is changed: none but these may have other ends
 * @returns for each side the number of the one side that shares it, `OPEN` at a border, `CROWDED` where more than two meet
 */
export function acrossSides(corners: Uint32Array, again?: { sides: Uint32Array; across: Int32Array }): Int32Array {
  const sides = corners.length;
  const across = again ? again.across : new Int32Array(sides).fill(OPEN);
  if (again) for (const side of again.sides) across[side] = OPEN;
  let places = 0;
  for (let at = 0; at < sides; at++) if (corners[at]! >= places) places = corners[at]! + 1;
  // The first sides between two places, in a chain for each lower place that begins at its head.
  const heads = new Int32Array(places).fill(-1);
  const chain = new Int32Array(sides);
  const lengths = new Uint8Array(places);
  const crowds = new Map<number, Map<number, number>>();
  const count = again ? again.sides.length : sides;
  for (let k = 0; k < count; k++) {
    const side = again ? again.sides[k]! : k;
    const from = corners[side]!;
    const to = corners[side % 3 === 2 ? side - 2 : side + 1]!;
    const low = from < to ? from : to;
    const high = from < to ? to : from;
    let first = heads[low]!;
    if (lengths[low] === CROWD) first = crowds.get(low)!.get(high) ?? -1;
    else while (first >= 0 && otherEnd(corners, first, low) !== high) first = chain[first]!;
    if (first >= 0) {
      joinSides(across, first, side);
      continue;
    }
    chain[side] = heads[low]!;
    heads[low] = side;
    if (lengths[low]! < CROWD && ++lengths[low]! === CROWD) crowds.set(low, crowdOf(corners, chain, side, low));
    else if (lengths[low] === CROWD) crowds.get(low)!.set(high, side);
  }
  return across;
}

/** Most sides in a chain; those of a place with more are looked up by their other ends. */
const CROWD = 32;

/** The place at the other end of a side that has `end` at one. */
function otherEnd(corners: Uint32Array, side: number, end: number): number {
  const from = corners[side]!;
  return from === end ? corners[side % 3 === 2 ? side - 2 : side + 1]! : from;
}

/** The sides of a chain by their other ends. */
function crowdOf(corners: Uint32Array, chain: Int32Array, first: number, end: number): Map<number, number> {
  const sides = new Map<number, number>();
  for (let side = first; side >= 0; side = chain[side]!) sides.set(otherEnd(corners, side, end), side);
  return sides;
}

/** @param first the first side between the places of `side` */
function joinSides(across: Int32Array, first: number, side: number): void {
  if (across[first] === OPEN) {
    across[first] = side;
    across[side] = first;
    return;
  }
  if (across[first]! >= 0) across[across[first]!] = CROWDED;
  across[first] = CROWDED;
  across[side] = CROWDED;
}

/** Whether all triangles pass the sides they share in opposite directions. */
export function sidesAgree(corners: Uint32Array, across: Int32Array): boolean {
  for (let side = 0; side < across.length; side++) {
    const other = across[side]!;
    if (other > side && corners[other] === corners[side]) return false;
  }
  return true;
}

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
  const sets = new DisjointSets(parts ? parts.count : across.length / 3);
  let joined = false;
  for (let side = 0; side < across.length; side++) {
    const other = across[side]!;
    if (other <= side) continue;
    const triangle = (side / 3) | 0;
    const next = (other / 3) | 0;
    if (!parts) sets.join(triangle, next);
    else if (parts.regions[triangle] !== parts.regions[next]) {
      sets.join(parts.regions[triangle]!, parts.regions[next]!);
      joined = true;
    }
  }
  if (!parts) return sets.number();
  if (!joined) return parts;
  const { regions: numbers, count } = sets.number();
  return { regions: parts.regions.map((part) => numbers[part]!), count };
}

/** Sets of whole numbers from 0 that are joined step by step (Tarjan and van Leeuwen 1984, with path halving). */
export class DisjointSets {
  private readonly parent: Int32Array;

  constructor(size: number) {
    this.parent = new Int32Array(size);
    for (let k = 0; k < size; k++) this.parent[k] = k;
  }

  /** The least member of a number's set. */
  least(of: number): number {
    const { parent } = this;
    let at = of;
    for (let up = parent[at]!; up !== at; up = parent[at]!) at = parent[at] = parent[up]!;
    return at;
  }

  join(a: number, b: number): void {
    if (this.parent[a] === this.parent[b]) return;
    const first = this.least(a);
    const second = this.least(b);
    // The least member stands for its set, so that sets are numbered by their first ones.
    if (first < second) this.parent[second] = first;
    else this.parent[first] = second;
  }

  /** The number of each one's set, counted by their least members. */
  number(): Regions {
    const regions = new Uint32Array(this.parent.length);
    let count = 0;
    for (let k = 0; k < regions.length; k++) {
      const least = this.least(k);
      regions[k] = least === k ? count++ : regions[least]!;
    }
    return { regions, count };
  }
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
  const sets = new DisjointSets(places);
  for (let at = 0; at < corners.length; at += 3) {
    sets.join(corners[at]!, corners[at + 1]!);
    sets.join(corners[at]!, corners[at + 2]!);
  }
  const numbers = new Int32Array(places).fill(-1);
  const regions = new Uint32Array(corners.length / 3);
  let count = 0;
  for (let t = 0; t < regions.length; t++) {
    const least = sets.least(corners[t * 3]!);
    if (numbers[least] === -1) numbers[least] = count++;
    regions[t] = numbers[least]!;
  }
  return { regions, count };
}
