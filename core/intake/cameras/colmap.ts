import { UserProblem, type Vector3 } from '../../document';
import {
  add,
  cross,
  dot,
  length,
  multiplyQuaternions,
  normalize,
  quaternionAbout,
  rotateVector,
  scale,
  type Quaternion,
  type Vector,
} from '../../geometry';
import type { CameraSample } from './cameraSamples';

/** Lenses that draw straight lines almost straight; their focal length is the first of their parameters. */
const MODELS: ReadonlySet<string> = new Set([
  'SIMPLE_PINHOLE',
  'PINHOLE',
  'SIMPLE_RADIAL',
  'RADIAL',
  'OPENCV',
  'FULL_OPENCV',
]);
const SENSOR = 36;
const MOST_PICTURES = 100_000;
/** From looking along Z with Y down to looking along -Z with Y up. */
const ABOUT_X: Quaternion = quaternionAbout([1, 0, 0], -Math.PI);
const problem = (text: string) => new UserProblem('camera-file', text);

/**
 * Cameras of the two text files `cameras.txt` and `images.txt` of COLMAP, in the order of their pictures' names; a number at the end of a name
 * is its frame, where all have one. Their world is brought upright, as nothing in the files says which way is up: by cameras that
 * are held level.
 * @param unit of the files in mm
 * @throws UserProblem `camera-file`
 */
export function readColmap(files: { cameras: string; images: string }, unit: number): CameraSample[] {
  const lenses = readLenses(files.cameras);
  const lines = files.images.split(/\r?\n/).filter((line) => !line.startsWith('#'));
  const pictures: { name: string; position: Vector3; turn: Quaternion; focalLength: number }[] = [];
  // Each picture takes two lines, of which the second lists its points and may be empty.
  for (let k = 0; k < lines.length; k += 2) {
    const cells = lines[k]!.trim().split(/\s+/);
    if (cells.length === 1 && cells[0] === '') continue;
    const [, qw, qx, qy, qz, tx, ty, tz] = cells.map(Number) as [number, ...number[]];
    const numbers = [qw, qx, qy, qz, tx, ty, tz] as number[];
    const focalLength = lenses.get(cells[8] ?? '');
    const size = Math.hypot(qw!, qx!, qy!, qz!);
    if (cells.length < 10 || !numbers.every(Number.isFinite) || !(size > 0.5))
      throw problem(`Line ${k + 1} of images.txt is no picture with its turn, its place and its camera. Nothing was taken in.`); // prettier-ignore
    if (focalLength === undefined)
      throw problem(`"${cells.slice(9).join(' ')}" was taken by camera ${cells[8]}, which cameras.txt does not have. Choose the two files of one model.`); // prettier-ignore
    if (pictures.length >= MOST_PICTURES) throw problem(`These files hold more than ${MOST_PICTURES} pictures. Cut the model into parts first.`); // prettier-ignore
    // Of the world in the camera's space, turned about.
    const back: Quaternion = [-qx! / size, -qy! / size, -qz! / size, qw! / size];
    const position = rotateVector([-tx! * unit, -ty! * unit, -tz! * unit], back);
    pictures.push({ name: cells.slice(9).join(' '), position, turn: multiplyQuaternions(back, ABOUT_X), focalLength });
  }
  if (pictures.length === 0) throw problem('images.txt holds no picture. Choose another file.');
  pictures.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const numbers = pictures.map(({ name }) => Number(/(\d+)\.[^.]*$/.exec(name)?.[1] ?? NaN));
  const numbered = numbers.every(Number.isInteger) && new Set(numbers).size === numbers.length;
  const first = Math.min(...numbers);
  const level = levelling(pictures.map(({ turn }) => turn));
  return pictures.map(({ position, turn, focalLength }, k) => ({
    frame: numbered ? numbers[k]! - first + 1 : k + 1,
    position: rotateVector(position, level),
    turn: multiplyQuaternions(level, turn),
    focalLength,
    sensorWidth: SENSOR,
    focusDistance: 1000,
    fStop: 0,
  }));
}

/** Focal lengths in mm on a sensor of 36 mm, by the camera's name. */
function readLenses(text: string): Map<string, number> {
  const lenses = new Map<string, number>();
  for (const [k, line] of text.split(/\r?\n/).entries()) {
    if (line.trim() === '' || line.startsWith('#')) continue;
    const [id, model, width, , focal] = line.trim().split(/\s+/);
    if (!model || !MODELS.has(model))
      throw problem(`Line ${k + 1} of cameras.txt has the camera model "${model ?? ''}", which bends lines too much to be matched here. Undistort the pictures first.`); // prettier-ignore
    const found = (Number(focal) / Number(width)) * SENSOR;
    if (!(found > 0) || !Number.isFinite(found))
      throw problem(`Line ${k + 1} of cameras.txt says no size or no focal length. Nothing was taken in.`);
    lenses.set(id!, found);
  }
  if (lenses.size === 0) throw problem('cameras.txt holds no camera. Choose the file that lies beside images.txt.');
  return lenses;
}

/** The turn that brings up the way that is across to the right of all cameras. */
function levelling(turns: readonly Quaternion[]): Quaternion {
  const rights = turns.map((turn) => rotateVector([1, 0, 0], turn));
  const above = turns.reduce((sum, turn) => add(sum, rotateVector([0, 1, 0], turn)), [0, 0, 0] as Vector);
  let up: Vector = [0, 0, 0];
  // The longest of these is known best: products of rights that stand far apart.
  for (const right of rights) {
    const across = cross(rights[0]!, right);
    up = add(up, scale(across, dot(across, above) < 0 ? -1 : 1));
  }
  // All look the same way: what is above them, as far as it is across to the right.
  if (length(up) < 0.05 * rights.length) up = add(above, scale(rights[0]!, -dot(above, rights[0]!)));
  const from = normalize(up);
  const axis = cross(from, [0, 1, 0]);
  const sine = length(axis);
  if (sine < 1e-9) return from[1] > 0 ? [0, 0, 0, 1] : quaternionAbout([1, 0, 0], Math.PI);
  return quaternionAbout(normalize(axis), Math.atan2(sine, from[1]));
}
