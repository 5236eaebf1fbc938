import { acrossSides } from './adjacency';
import { fitAxis, fitCircle, type FittedAxis, type FittedCircle } from './roundFaces';
import type { TriangleMesh } from './sweep';
import { dot, mix, normalize, subtract, distance, type Vector } from './vector';
import { weldPositions } from './weld';

/** A run of the edges between two faces, from one corner to the next or round and round. */
interface BorderCurve {
  points: Vector[];
  closed: boolean;
  circle: FittedCircle | null;
}

/** What a picked place was drawn to. */
export interface Snapped {
  kind: 'corner' | 'middle' | 'circle' | 'surface';
  point: [number, number, number];
  /** Of a circle: where it is and its size. */
  circle?: FittedCircle;
}

/** Radians of turn from which an edge has a corner. */
const CORNER = 0.6;
/** A run of edges is round where its points are within this part of the radius of a circle. */
const ROUND = 0.01;

/** The edges between the faces of a mesh as runs with corners, and the faces as round or not. */
export class BorderCurves {
  private readonly corners: Uint32Array;
  private readonly curves = new Map<number, BorderCurve[]>();
  private readonly axes = new Map<number, FittedAxis | null>();
  /** Sides at which a face ends, by face. */
  private readonly sides = new Map<number, number[]>();

  constructor(private readonly mesh: TriangleMesh) {
    const { places } = weldPositions(mesh.positions, 1e-4);
    // A place is known by one of its vertices, so that it has a position.
    const first = new Map<number, number>();
    this.corners = mesh.indices.map((vertex) => {
      const place = places[vertex]!;
      if (!first.has(place)) first.set(place, vertex);
      return first.get(place)!;
    });
    const across = acrossSides(this.corners);
    for (let side = 0; side < across.length; side++) {
      const other = across[side]!;
      const face = this.faceOf((side / 3) | 0);
      if (other >= 0 && this.faceOf((other / 3) | 0) === face) continue;
      const list = this.sides.get(face);
      if (list) list.push(side);
      else this.sides.set(face, [side]);
    }
  }

  /**
   * Draws a place on a triangle to what is near it: a corner of the face, the middle of a straight edge, or the centre of a
   * round edge, when the place is at its rim.
   * @param reach how far away things draw, in the mesh's unit
   */
  snap(triangle: number, point: Vector, reach: number): Snapped {
    let found: Snapped = { kind: 'surface', point: [...point] };
    let nearest = reach;
    const offer = (kind: Snapped['kind'], at: Vector, away: number, circle?: FittedCircle) => {
      if (away >= nearest) return;
      nearest = away;
      found = { kind, point: [...at], ...(circle ? { circle } : {}) };
    };
    for (const { points, circle, closed } of this.curvesOf(this.faceOf(triangle))) {
      const rim = distanceToRun(points, closed, point);
      // Corners and middles lie on the edge too: they win over its rim by half.
      if (circle) offer('circle', circle.center, rim * 1.5, circle);
      if (closed) continue;
      const [from, to] = [points[0]!, points.at(-1)!];
      offer('corner', from, distance(from, point));
      offer('corner', to, distance(to, point));
      const middle = mix(from, to, 0.5);
      if (!circle && isStraight(points)) offer('middle', middle, distance(middle, point));
    }
    return found;
  }

  /** The axis about which the face of a triangle is round; null where it is not. */
  axisOf(triangle: number): FittedAxis | null {
    const face = this.faceOf(triangle);
    let axis = this.axes.get(face);
    if (axis === undefined) this.axes.set(face, (axis = this.fitAxisOf(face)));
    return axis;
  }

  private fitAxisOf(face: number): FittedAxis | null {
    const { positions, normals, indices } = this.mesh;
    const used = new Set<number>();
    for (let t = 0; t < indices.length / 3; t++) {
      if (this.faceOf(t) === face) for (let k = 0; k < 3; k++) used.add(indices[t * 3 + k]!);
    }
    const at = (array: Float32Array, vertex: number): Vector => [array[vertex * 3]!, array[vertex * 3 + 1]!, array[vertex * 3 + 2]!]; // prettier-ignore
    const vertices = [...used];
    return fitAxis(
      vertices.map((vertex) => at(positions, vertex)),
      vertices.map((vertex) => at(normals, vertex)),
      // A washer has two borders: the outer one counts.
      this.curvesOf(face).reduce<readonly Vector[]>(
        (most, { points }) => (extentOf(points) > extentOf(most) ? points : most),
        [],
      ),
    );
  }

  private faceOf(triangle: number): number {
    return this.mesh.faces?.[triangle] ?? 0;
  }

  private place(corner: number): Vector {
    const { positions } = this.mesh;
    return [positions[corner * 3]!, positions[corner * 3 + 1]!, positions[corner * 3 + 2]!];
  }

  private curvesOf(face: number): BorderCurve[] {
    const known = this.curves.get(face);
    if (known) return known;
    const made = this.follow(this.sides.get(face) ?? []).map(({ points, closed }) => {
      const circle = points.length >= 5 ? fitCircle(points) : null;
      const round = circle && circle.residual < ROUND * circle.radius && !isStraight(points);
      return { points, closed, circle: round ? circle : null };
    });
    this.curves.set(face, made);
    return made;
  }

  /** Sides in runs: each goes on with the side that begins where it ends, unless there is a corner. */
  private follow(sides: readonly number[]): { points: Vector[]; closed: boolean }[] {
    const ends = (side: number): [number, number] => [
      this.corners[side]!,
      this.corners[side % 3 === 2 ? side - 2 : side + 1]!,
    ];
    const from = new Map<number, number[]>();
    for (const side of sides) {
      const [start] = ends(side);
      const list = from.get(start);
      if (list) list.push(side);
      else from.set(start, [side]);
    }
    const way = (side: number) => {
      const [a, b] = ends(side);
      return normalize(subtract(this.place(b), this.place(a)));
    };
    const next = new Map<number, number>();
    const before = new Set<number>();
    for (const side of sides) {
      const [follower, ...others] = from.get(ends(side)[1]) ?? [];
      if (follower === undefined || others.length > 0) continue;
      if (dot(way(side), way(follower)) < Math.cos(CORNER)) continue;
      next.set(side, follower);
      before.add(follower);
    }
    const runs: { points: Vector[]; closed: boolean }[] = [];
    const seen = new Set<number>();
    for (const side of [...sides.filter((each) => !before.has(each)), ...sides]) {
      if (seen.has(side)) continue;
      const points = [this.place(ends(side)[0])];
      let closed = false;
      for (let at: number | undefined = side; at !== undefined; at = next.get(at)) {
        if (seen.has(at)) {
          closed = at === side;
          break;
        }
        seen.add(at);
        points.push(this.place(ends(at)[1]));
      }
      // The last point of a closed run is its first.
      if (closed) points.pop();
      runs.push({ points, closed });
    }
    return runs;
  }
}

function extentOf(points: readonly Vector[]): number {
  return points.reduce((most, point) => Math.max(most, distance(point, points[0]!)), 0);
}

function isStraight(points: readonly Vector[]): boolean {
  const [from, to] = [points[0]!, points.at(-1)!];
  const long = distance(from, to);
  return long > 0 && points.every((point) => distanceToSegment(from, to, point) < 1e-3 * long);
}

function distanceToRun(points: readonly Vector[], closed: boolean, point: Vector): number {
  let least = Infinity;
  for (let k = closed ? 0 : 1; k < points.length; k++) {
    least = Math.min(least, distanceToSegment(points.at(k - 1)!, points[k]!, point));
  }
  return least;
}

function distanceToSegment(from: Vector, to: Vector, point: Vector): number {
  const along = subtract(to, from);
  const square = dot(along, along);
  const t = square > 0 ? Math.min(1, Math.max(0, dot(subtract(point, from), along) / square)) : 0;
  return distance(mix(from, to, t), point);
}
