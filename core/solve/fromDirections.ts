import { UserProblem } from '../document';
import { cross, dot, normalize, scale, type Vector } from '../geometry';
import { rayThrough, upright, type Pinhole, type Sight } from './pinhole';

export type Line = readonly [Sight, Sight];

/** Edges that run in two directions of the ground at right angles to each other. */
export interface DirectionMarks {
  /** Two edges that run from left to right. */
  across: readonly [Line, Line];
  /** Two edges that run from near to far. */
  away: readonly [Line, Line];
  /** A place on the ground, which becomes the origin. */
  origin: Sight;
  /** Of the camera above the ground in mm. */
  height: number;
  /** The camera's, in half widths; null where it is to be found. */
  focal: number | null;
}

/**
 * The camera that sees edges of two directions as they were marked: where edges of one direction meet lies in that direction (Caprile
 * and Torre, Using Vanishing Points for Camera Calibration, 1990).
 * @throws UserProblem `marks-no-lens`, `marks-sky`
 */
export function fromDirections({ across, away, origin, height, focal }: DirectionMarks): Pinhole {
  const [x, z] = [meeting(across), meeting(away)];
  const squared = -(x[0] * z[0] + x[1] * z[1]) / (x[2] * z[2]);
  const found = focal ?? Math.sqrt(squared);
  if (!Number.isFinite(found) || found < 0.2 || found > 60)
    throw new UserProblem('marks-no-lens', 'Edges of one direction run side by side in the picture, so they do not tell the focal length. Type it, or mark edges that meet further in.'); // prettier-ignore
  const towards = ([u, v, w]: Vector): Vector => normalize([u / found, v / found, w]);
  let [alongX, alongZ] = [towards(x), towards(z)];
  if (alongX[0] < 0) alongX = scale(alongX, -1);
  // +z comes towards the camera.
  if (alongZ[2] > 0) alongZ = scale(alongZ, -1);
  const alongY = normalize(cross(alongX, alongZ));
  const row = (k: 0 | 1 | 2): Vector => [alongX[k], alongY[k], alongZ[k]];
  const axes = upright(row(0), row(2));
  const ray = rayThrough({ position: [0, 0, 0], ...axes, focal: found }, origin);
  if (ray[1] > -1e-6)
    throw new UserProblem(
      'marks-sky',
      'The place for the origin lies above the horizon of these edges. Put it on the ground.',
    );
  return { position: scale(ray, height / ray[1]), ...axes, focal: found };
}

/** Where two lines of a picture meet, of length 1; its last part is 0 where they never do. */
function meeting([a, b]: readonly [Line, Line]): Vector {
  const line = ([[x, y], [u, v]]: Line): Vector => normalize(cross([x, y, 1], [u, v, 1]));
  const met = normalize(cross(line(a), line(b)));
  return dot(met, met) > 0 ? met : [0, 0, 1];
}
