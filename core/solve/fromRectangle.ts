import { UserProblem } from '../document';
import { cross, dot, length, normalize, scale, type Vector } from '../geometry';
import { homography } from './homography';
import { upright, type Pinhole, type Sight } from './pinhole';
import { missOf, refineCamera, type Known } from './refine';

/** What is known of a rectangle that lies on the ground. */
export interface RectangleMarks {
  /** Where its corners are seen: near left, near right, far right, far left. */
  corners: readonly [Sight, Sight, Sight, Sight];
  /** Edges in mm, from left to right and from near to far; null where one is not known. */
  width: number | null;
  depth: number | null;
  /** The camera's, in half widths; null where it is to be found. */
  focal: number | null;
}

export interface FoundCamera {
  camera: Pinhole;
  /** Edges of the rectangle in mm. */
  width: number;
  depth: number;
  /** How far marks are from where the camera sees them, as a root of mean squares in half widths. */
  miss: number;
}

const SQUARE = [[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]] as const; // prettier-ignore

/** Corners on the ground, the rectangle's middle at the origin and its near edge towards +z. */
const cornersOf = (width: number, depth: number): Vector[] => SQUARE.map(([s, t]) => [s * width, 0, -t * depth]);

/**
 * The camera that sees a rectangle on the ground as it was marked: its edges are at right angles, and as long as they are known to be
 * (Zhang, A Flexible New Technique for Camera Calibration, 2000; Zhang and He, Whiteboard Scanning and Image Enhancement, 2007).
 * @throws UserProblem `marks-no-size`, `marks-no-rectangle`, `marks-no-lens`
 */
export function fromRectangle({ corners, width, depth, focal }: RectangleMarks): FoundCamera {
  if (width === null && depth === null)
    throw new UserProblem(
      'marks-no-size',
      'Say how long one edge of the rectangle is, so that the camera gets its distance.',
    );
  if (!isConvex(corners))
    throw new UserProblem('marks-no-rectangle', 'These four marks are no rectangle seen from a side: put them on its corners one after another, all the way round.'); // prettier-ignore
  // Marked the other way round, the ground would be seen from below.
  const turned = areaOf(corners) < 0;
  const [a, b, c, d] = corners;
  const seen: readonly Sight[] = turned ? [b, a, d, c] : corners;
  const h = homography(SQUARE, seen);
  const own = h[8]! < 0 ? h.map((v) => -v) : h;
  const column = (k: number): Vector => [own[k]!, own[3 + k]!, own[6 + k]!];
  const columns = [0, 1, 2].map(column) as [Vector, Vector, Vector];
  const found = focal ?? focalOf(columns, width, depth);
  if (found === null)
    throw new UserProblem('marks-no-lens', 'Seen like this, the rectangle does not tell the focal length: it is seen straight from above or along one edge. Type the focal length, or mark another one.'); // prettier-ignore
  const [x, t, o] = columns.map(([u, v, w]): Vector => [u / found, v / found, w]) as [Vector, Vector, Vector];
  const ratio = length(t) / length(x);
  const edges = { width: width ?? depth! / ratio, depth: depth ?? width! * ratio };
  const size = (length(x) / edges.width + length(t) / edges.depth) / 2;
  // Columns of the way from the world to right, up and forward.
  const alongX = normalize(x);
  const alongZ = normalize(scale(t, -1));
  const alongY = normalize(cross(alongX, alongZ));
  const row = (k: 0 | 1 | 2): Vector => [alongX[k], alongY[k], alongZ[k]];
  const axes = upright(row(0), row(2));
  const place = scale(o, -1 / size);
  const position = [0, 1, 2].map((k) =>
    dot([axes.right[k]!, axes.up[k]!, axes.forward[k]!], place),
  ) as unknown as Vector;
  const known: Known[] = cornersOf(edges.width, edges.depth).map((at, k) => ({ place: at, seen: seen[k]! }));
  const camera = refineCamera({ position, ...axes, focal: found }, known, focal === null);
  return { camera, ...edges, miss: missOf(camera, known) };
}

/** Twice the area that marks go round, positive counter-clockwise with up being up. */
const areaOf = (marks: readonly Sight[]): number =>
  marks.reduce((sum, [x, y], k) => {
    const [nx, ny] = marks[(k + 1) % marks.length]!;
    return sum + x * ny - nx * y;
  }, 0);

function isConvex(marks: readonly Sight[]): boolean {
  const turns = marks.map(([x, y], k) => {
    const [bx, by] = marks[(k + 1) % 4]!;
    const [cx, cy] = marks[(k + 2) % 4]!;
    return (bx - x) * (cy - by) - (by - y) * (cx - bx);
  });
  return turns.every((turn) => turn > 1e-7) || turns.every((turn) => turn < -1e-7);
}

/** Focal lengths beyond these are no lens that one looks through, in half widths. */
const SHORTEST = 0.2;
const LONGEST = 60;

/** The focal length by which edges are at right angles and as long as they are known to be; null where that says nothing. */
function focalOf([x, t]: readonly Vector[], width: number | null, depth: number | null): number | null {
  // Each says a / focal² + b = 0.
  const says: [number, number][] = [[x![0] * t![0] + x![1] * t![1], x![2] * t![2]]];
  if (width !== null && depth !== null) {
    const [w, d] = [width * width, depth * depth];
    says.push([(x![0] ** 2 + x![1] ** 2) / w - (t![0] ** 2 + t![1] ** 2) / d, x![2] ** 2 / w - t![2] ** 2 / d]);
    // In the same measure as the right angle.
    const last = says[1]!;
    last[0] *= width * depth;
    last[1] *= width * depth;
  }
  const over = says.reduce((sum, [a]) => sum + a * a, 0);
  const inverse = -says.reduce((sum, [a, b]) => sum + a * b, 0) / over;
  const focal = 1 / Math.sqrt(inverse);
  return focal >= SHORTEST && focal <= LONGEST ? focal : null;
}
