/** What stands at a share of a way, 0 to 1. */
export type Way = (share: number) => number[];

interface WayOptions {
  smooth: boolean;
  /** At one speed, as the first three numbers, a place, go. */
  even: boolean;
  closed: boolean;
}

/** Pieces of a span between two points, in which its length is measured. */
const PIECES = 400;

/**
 * A way through points of any number of coordinates, of which the first three are a place: straight, or a centripetal
 * Catmull-Rom curve (Yuksel, Schaefer, Keyser, Parameterization and Applications of Catmull-Rom Curves, 2011), which makes
 * no loops and no cusps.
 */
export function wayThrough(points: readonly (readonly number[])[], { smooth, even, closed }: WayOptions): Way {
  const round = closed && points.length > 1 ? [...points, points[0]!] : points;
  const spans = round.length - 1;
  if (spans < 1) return () => [...points[0]!];
  const at = (share: number): number[] => {
    const t = Math.min(1, Math.max(0, share)) * spans;
    const k = Math.min(spans - 1, Math.floor(t));
    const u = t - k;
    const [b, c] = [round[k]!, round[k + 1]!];
    if (!smooth) return b.map((v, i) => v + (c[i]! - v) * u);
    const before = k > 0 ? round[k - 1]! : closed ? round[spans - 1]! : reflected(b, c);
    const after = k < spans - 1 ? round[k + 2]! : closed ? round[1]! : reflected(c, b);
    return centripetal(before, b, c, after, u);
  };
  if (!even) return at;
  const pieces = spans * PIECES;
  const lengths = new Float64Array(pieces + 1);
  let last = at(0);
  for (let k = 1; k <= pieces; k++) {
    const next = at(k / pieces);
    lengths[k] = lengths[k - 1]! + distanceOf(last, next);
    last = next;
  }
  const whole = lengths[pieces]!;
  // One that stays in its place turns only.
  if (whole < 1e-9) return at;
  return (share) => {
    const wanted = Math.min(1, Math.max(0, share)) * whole;
    let low = 0;
    let high = pieces;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (lengths[middle]! <= wanted) low = middle;
      else high = middle;
    }
    const piece = lengths[high]! - lengths[low]!;
    return at((low + (piece > 0 ? (wanted - lengths[low]!) / piece : 0)) / pieces);
  };
}

const distanceOf = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

/** The point that would come before `a` on a straight line from `b`. */
const reflected = (a: readonly number[], b: readonly number[]): number[] => a.map((v, i) => 2 * v - b[i]!);

/** Barry and Goldman's pyramid; knots lie the roots of the distances of places apart. */
function centripetal(
  p0: readonly number[],
  p1: readonly number[],
  p2: readonly number[],
  p3: readonly number[],
  u: number,
): number[] {
  const gap = (a: readonly number[], b: readonly number[]) => Math.max(1e-4, Math.sqrt(distanceOf(a, b)));
  const t1 = gap(p0, p1);
  const t2 = t1 + gap(p1, p2);
  const t3 = t2 + gap(p2, p3);
  const t = t1 + (t2 - t1) * u;
  const mixed = (a: readonly number[], b: readonly number[], ta: number, tb: number) =>
    a.map((v, i) => ((tb - t) * v + (t - ta) * b[i]!) / (tb - ta));
  const a1 = mixed(p0, p1, 0, t1);
  const a2 = mixed(p1, p2, t1, t2);
  const a3 = mixed(p2, p3, t2, t3);
  return mixed(mixed(a1, a2, 0, t2), mixed(a2, a3, t1, t3), t1, t2);
}
