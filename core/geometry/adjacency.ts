/** What lies across a side of a triangle: another side's number, nothing, or several triangles. */
export const OPEN = -1;
export const CROWDED = -2;

const EMPTY = 0xffffffff;

/**
 * The side across each side of each triangle. Side `3 t + k` of triangle `t` runs from its corner k to its corner k + 1.
 * @param corners three place numbers a triangle, as welded
 * @returns for each side the number of the one side that shares it, `OPEN` at a border, `CROWDED` where more than two meet
 */
export function acrossSides(corners: Uint32Array): Int32Array {
  const sides = corners.length;
  const across = new Int32Array(sides).fill(OPEN);
  let places = 0;
  for (let at = 0; at < sides; at++) if (corners[at]! >= places) places = corners[at]! + 1;
  // Sides in one list, those of one lower place together.
  const begins = new Uint32Array(places + 1);
  for (let side = 0; side < sides; side++) begins[Math.min(corners[side]!, cornerAfter(corners, side)) + 1]!++;
  for (let place = 0; place < places; place++) begins[place + 1]! += begins[place]!;
  const list = new Uint32Array(sides);
  const fill = begins.slice(0, places);
  for (let side = 0; side < sides; side++) {
    list[fill[Math.min(corners[side]!, cornerAfter(corners, side))]!++] = side;
  }
  for (let place = 0; place < places; place++) {
    const [from, to] = [begins[place]!, begins[place + 1]!];
    if (to - from > CROWD) {
      joinCrowd(list.subarray(from, to), corners, across);
      continue;
    }
    for (let at = from + 1; at < to; at++) {
      const side = list[at]!;
      const high = Math.max(corners[side]!, cornerAfter(corners, side));
      for (let before = from; before < at; before++) {
        const first = list[before]!;
        if (Math.max(corners[first]!, cornerAfter(corners, first)) !== high) continue;
        joinSides(across, first, side);
        break;
      }
    }
  }
  return across;
}

/** Most sides at one place that are compared each with each. */
const CROWD = 64;

const cornerAfter = (corners: Uint32Array, side: number): number => corners[side % 3 === 2 ? side - 2 : side + 1]!;

function joinCrowd(list: Uint32Array, corners: Uint32Array, across: Int32Array): void {
  const firsts = new Map<number, number>();
  for (const side of list) {
    const high = Math.max(corners[side]!, cornerAfter(corners, side));
    const first = firsts.get(high);
    if (first === undefined) firsts.set(high, side);
    else joinSides(across, first, side);
  }
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

/**
 * Numbers the connected regions of triangles.
 * @param joins whether the regions on both sides of a side that two triangles share are one; asked once the triangle of the
 *   first side has its region, and before that of the other has
 * @returns region of each triangle, and how many there are
 */
export function regions(
  across: Int32Array,
  joins: (side: number, other: number) => boolean = () => true,
): { regions: Uint32Array; count: number } {
  const triangles = across.length / 3;
  const region = new Uint32Array(triangles).fill(EMPTY);
  const waiting = new Uint32Array(triangles);
  let count = 0;
  for (let start = 0; start < triangles; start++) {
    if (region[start] !== EMPTY) continue;
    region[start] = count;
    waiting[0] = start;
    for (let end = 1; end > 0;) {
      const triangle = waiting[--end]!;
      for (let side = triangle * 3; side < triangle * 3 + 3; side++) {
        const other = across[side]!;
        if (other < 0) continue;
        const next = (other / 3) | 0;
        if (region[next] !== EMPTY || !joins(side, other)) continue;
        region[next] = count;
        waiting[end++] = next;
      }
    }
    count++;
  }
  return { regions: region, count };
}

/**
 * Loose shells: triangles that hang together over shared places, crowded edges and touching corners included.
 * @returns shell of each triangle, and how many there are
 */
export function shells(corners: Uint32Array, places: number): { regions: Uint32Array; count: number } {
  const parent = new Uint32Array(places);
  for (let k = 0; k < places; k++) parent[k] = k;
  const root = (of: number): number => {
    let at = of;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!;
      at = parent[at]!;
    }
    return at;
  };
  for (let at = 0; at < corners.length; at += 3) {
    const first = root(corners[at]!);
    parent[root(corners[at + 1]!)] = first;
    parent[root(corners[at + 2]!)] = root(first);
  }
  const numbers = new Map<number, number>();
  const region = new Uint32Array(corners.length / 3);
  for (let t = 0; t < region.length; t++) {
    const of = root(corners[t * 3]!);
    let number = numbers.get(of);
    if (number === undefined) numbers.set(of, (number = numbers.size));
    region[t] = number;
  }
  return { regions: region, count: numbers.size };
}
