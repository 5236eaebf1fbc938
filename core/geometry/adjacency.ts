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
  const size = 1 << Math.max(4, Math.ceil(Math.log2(sides + 1)));
  const heads = new Uint32Array(size).fill(EMPTY);
  const chain = new Uint32Array(sides);
  for (let side = 0; side < sides; side++) {
    const from = corners[side]!;
    const to = corners[side % 3 === 2 ? side - 2 : side + 1]!;
    const [low, high] = from < to ? [from, to] : [to, from];
    const slot = ((Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0) & (size - 1);
    let first = EMPTY;
    for (let at = heads[slot]!; at !== EMPTY; at = chain[at]!) {
      const a = corners[at]!;
      const b = corners[at % 3 === 2 ? at - 2 : at + 1]!;
      if ((a === low && b === high) || (a === high && b === low)) {
        first = at;
        break;
      }
    }
    if (first === EMPTY) {
      chain[side] = heads[slot]!;
      heads[slot] = side;
    } else if (across[first] === OPEN) {
      across[first] = side;
      across[side] = first;
    } else {
      if (across[first]! >= 0) across[across[first]!] = CROWDED;
      across[first] = CROWDED;
      across[side] = CROWDED;
    }
  }
  return across;
}

/**
 * Numbers the connected regions of triangles.
 * @param joins whether the regions on both sides of a side that two triangles share are one
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
