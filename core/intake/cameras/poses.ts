import { strToU8, zipSync } from 'fflate';
import type { Vector3 } from '../../document';
import { quaternionAbout, rotateVector, type Quaternion } from '../../geometry';
import type { CameraSample } from './cameraSamples';

/** Pictures that samples are of. */
export interface PosedPictures {
  width: number;
  height: number;
  /** File of a sample's picture. */
  file(sample: CameraSample): string;
}

const METRE = 1000;

const multiply = ([ax, ay, az, aw]: Quaternion, [bx, by, bz, bw]: Quaternion): Quaternion => [
  aw * bx + ax * bw + ay * bz - az * by,
  aw * by - ax * bz + ay * bw + az * bx,
  aw * bz + ax * by - ay * bx + az * bw,
  aw * bw - ax * bx - ay * by - az * bz,
];

/** Pixels of the picture per unit of slope: pixels are square. */
const focalPixels = ({ focalLength, sensorWidth }: CameraSample, width: number): number =>
  (width * focalLength) / sensorWidth;

/**
 * Poses for multi-view reconstruction as JSON: of each picture the matrix from camera to world, rows first, the camera looking along
 * -Z with Y up, in metres; focal lengths and the middle in pixels, which is the form that tools for radiance fields read.
 */
export function writePosesJson(samples: readonly CameraSample[], { width, height, file }: PosedPictures): string {
  const first = samples[0]!;
  const focal = focalPixels(first, width);
  const alike = samples.every((sample) => focalPixels(sample, width) === focal);
  const frames = samples.map((sample) => {
    const axes = ([[1, 0, 0], [0, 1, 0], [0, 0, 1]] as const).map((axis) => rotateVector(axis, sample.turn)); // prettier-ignore
    const rows = [0, 1, 2].map((row) => [...axes.map((axis) => axis[row]!), sample.position[row]! / METRE]);
    const own = focalPixels(sample, width);
    return {
      file_path: file(sample),
      ...(alike ? {} : { fl_x: own, fl_y: own }),
      transform_matrix: [...rows, [0, 0, 0, 1]],
    };
  });
  const whole = {
    camera_model: 'PINHOLE',
    w: width,
    h: height,
    fl_x: focal,
    fl_y: focal,
    cx: width / 2,
    cy: height / 2,
    camera_angle_x: 2 * Math.atan(width / 2 / focal),
    camera_angle_y: 2 * Math.atan(height / 2 / focal),
    frames,
  };
  return `${JSON.stringify(whole, null, 1)}\n`;
}

/** From looking along -Z with Y up to looking along Z with Y down. */
const ABOUT_X: Quaternion = quaternionAbout([1, 0, 0], Math.PI);

/**
 * Poses as the three text files of COLMAP (J. L. Schönberger and J.-M. Frahm, Structure-from-Motion Revisited, 2016; its output format):
 * one pinhole camera for each lens, the way from world to camera with x right, y down and z forward, in metres, and no points.
 */
export function writePosesColmap(
  samples: readonly CameraSample[],
  { width, height, file }: PosedPictures,
): Record<'cameras.txt' | 'images.txt' | 'points3D.txt', string> {
  const lenses = [...new Set(samples.map((sample) => focalPixels(sample, width)))];
  const tidy = (value: number) => String(Number(value.toPrecision(12)));
  const cameras = lenses.map((focal, k) => `${k + 1} PINHOLE ${width} ${height} ${tidy(focal)} ${tidy(focal)} ${width / 2} ${height / 2}`); // prettier-ignore
  const images = samples.map((sample, k) => {
    const [x, y, z, w] = inverse(multiply(sample.turn, ABOUT_X));
    const [tx, ty, tz] = rotateVector(sample.position, [x, y, z, w]).map((v) => -v / METRE) as Vector3;
    const lens = lenses.indexOf(focalPixels(sample, width)) + 1;
    // Each picture takes two lines: the second would list its points.
    return `${k + 1} ${[w, x, y, z, tx, ty, tz].map(tidy).join(' ')} ${lens} ${file(sample)}\n`;
  });
  return {
    'cameras.txt': `# CAMERA_ID MODEL WIDTH HEIGHT PARAMS[]\n${cameras.join('\n')}\n`,
    'images.txt': `# IMAGE_ID QW QX QY QZ TX TY TZ CAMERA_ID NAME\n${images.join('\n')}\n`,
    'points3D.txt': '# POINT3D_ID X Y Z R G B ERROR TRACK[]\n',
  };
}

const inverse = ([x, y, z, w]: Quaternion): Quaternion => [-x, -y, -z, w];

/** The same three files packed, in the folder in which the format has them. */
export function packPosesColmap(samples: readonly CameraSample[], pictures: PosedPictures): Uint8Array<ArrayBuffer> {
  const files = Object.entries(writePosesColmap(samples, pictures));
  return new Uint8Array(zipSync(Object.fromEntries(files.map(([name, text]) => [`sparse/0/${name}`, strToU8(text)]))));
}
