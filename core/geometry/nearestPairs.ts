import type { Vector } from './vector';

/** Rounds in which mutual neighbours are paired; what is left then takes the nearest in turn. */
const ROUNDS = 32;

/**
 * Pairs points of two sets, the nearest first: two are a pair when each is the other's nearest of those that are left.
 * Coordinates are finite.
 * @returns positions in both lists; as many pairs as the smaller list has points
 */
export function nearestPairs(first: readonly Vector[], second: readonly Vector[]): [number, number][] {
  // Most often there is one of each.
  if (first.length === 1 && second.length === 1) return [[0, 0]];
  const axis = widestAxis([...first, ...second]);
  const left = new SortedPoints(first, axis);
  const right = new SortedPoints(second, axis);
  const pairs: [number, number][] = [];
  const pair = (a: number, b: number) => {
    left.take(a);
    right.take(b);
    pairs.push([a, b]);
  };
  for (let round = 0; round < ROUNDS && left.size > 0 && right.size > 0; round++) {
    const towards = left.open().map((a) => [a, right.nearest(first[a]!)] as const);
    const back = new Map([...new Set(towards.map(([, b]) => b))].map((b) => [b, left.nearest(second[b]!)] as const));
    for (const [a, b] of towards) if (back.get(b) === a) pair(a, b);
  }
  for (const a of left.open()) if (right.size > 0) pair(a, right.nearest(first[a]!));
  return pairs;
}

function widestAxis(points: readonly Vector[]): 0 | 1 | 2 {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const point of points) {
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k]!, point[k]!);
      high[k] = Math.max(high[k]!, point[k]!);
    }
  }
  const extents = high.map((v, k) => v - low[k]!);
  return extents.indexOf(Math.max(...extents)) as 0 | 1 | 2;
}

/** Points in the order of one coordinate, of which some are taken away. */
class SortedPoints {
  size: number;
  private order: number[];
  private readonly taken: Uint8Array;

  constructor(
    private readonly points: readonly Vector[],
    private readonly axis: 0 | 1 | 2,
  ) {
    this.size = points.length;
    this.taken = new Uint8Array(points.length);
    this.order = [...points.keys()].sort((a, b) => points[a]![axis] - points[b]![axis] || a - b);
  }

  /** The points that are left. */
  open(): number[] {
    // Those that are taken would be stepped over again and again.
    this.order = this.order.filter((at) => this.taken[at] === 0);
    return [...this.order].sort((a, b) => a - b);
  }

  take(at: number): void {
    this.taken[at] = 1;
    this.size--;
  }

  /** The nearest point that is left, of several the first in the list; there must be one. */
  nearest(to: Vector): number {
    const { order, points, axis, taken } = this;
    let low = 0;
    for (let high = order.length; low < high;) {
      const middle = (low + high) >> 1;
      if (points[order[middle]!]![axis] < to[axis]) low = middle + 1;
      else high = middle;
    }
    let found = -1;
    let least = Infinity;
    const offer = (at: number) => {
      const [x, y, z] = points[at]!;
      const square = (x - to[0]) ** 2 + (y - to[1]) ** 2 + (z - to[2]) ** 2;
      if (square < least || (square === least && at < found)) [found, least] = [at, square];
    };
    // Outwards both ways, until the one coordinate alone is farther than what was found.
    const reaches = (at: number | undefined) => at !== undefined && (points[at]![axis] - to[axis]) ** 2 <= least;
    for (let k = low; reaches(order[k]); k++) if (taken[order[k]!] === 0) offer(order[k]!);
    for (let k = low - 1; reaches(order[k]); k--) if (taken[order[k]!] === 0) offer(order[k]!);
    return found;
  }
}
