import type { StudioSet } from '../document';
import type { Rgb } from './photometry';
import { skyModel, type SkyModel } from './skyModel';

/**
 * Equirectangular picture, top row first, three linear values a pixel: straight ahead (+z) is its middle, what is at +x, on the left of
 * someone who looks there, its left half.
 */
export interface SurroundingsPicture {
  width: number;
  height: number;
  pixels: Float32Array;
}

type Surroundings = StudioSet['surroundings'];
type SurroundingsGrade = Pick<Surroundings, 'contrast' | 'saturation' | 'blur'>;

/** What stands around a set as a picture, before it is graded and multiplied; `read` brings pictures by asset id. */
export async function paintSurroundings(
  { kind, picture, mirrored, gradient, sky }: Surroundings,
  read: (asset: string) => Promise<SurroundingsPicture>,
): Promise<SurroundingsPicture> {
  if (kind === 'picture' && picture) {
    const found = await read(picture);
    return mirrored ? mirrorSurroundings(found) : found;
  }
  if (kind === 'sky') return skySurroundings(sky);
  return kind === 'gradient'
    ? gradientSurroundings(gradient.top, gradient.horizon, gradient.bottom)
    : plainSurroundings([1, 1, 1]);
}

/** Where a unit direction lies on a picture, 0 to 1 from its left and from its top. */
export function placeOnPicture([x, y, z]: Rgb): [number, number] {
  const u = 0.5 - Math.atan2(x, z) / (2 * Math.PI);
  return [u - Math.floor(u), Math.acos(Math.min(1, Math.max(-1, y))) / Math.PI];
}

/** The picture with left and right changed about. */
export function mirrorSurroundings({ width, height, pixels }: SurroundingsPicture): SurroundingsPicture {
  const out = new Float32Array(pixels.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + width - 1 - x) * 3;
      out.set(pixels.subarray(from, from + 3), (y * width + x) * 3);
    }
  }
  return { width, height, pixels: out };
}

/** What the picture around a set is multiplied by: its brightness and tint, and the colour of plain surroundings. */
export function surroundingsGain({ kind, picture, color, brightness, tint }: Surroundings): [number, number, number] {
  const plain = kind === 'color' || (kind === 'picture' && !picture);
  return tint.map((v, k) => v * brightness * (plain ? color[k]! : 1)) as [number, number, number];
}

/** The same colour from everywhere: one pixel, which the kernel neither looks up nor chooses from. */
export const plainSurroundings = (color: Rgb): SurroundingsPicture => ({
  width: 1,
  height: 1,
  pixels: new Float32Array(color),
});

const GRADIENT_ROWS = 128;

/** Colours that blend by the angle above and below the horizon: straight up, at the horizon, straight down. */
export function gradientSurroundings(top: Rgb, horizon: Rgb, bottom: Rgb): SurroundingsPicture {
  const [width, height] = [2, GRADIENT_ROWS];
  const pixels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const down = ((y + 0.5) / height) * 2 - 1;
    const end = down < 0 ? top : bottom;
    const color = horizon.map((v, k) => v + (end[k]! - v) * Math.abs(down));
    for (let x = 0; x < width; x++) pixels.set(color, (y * width + x) * 3);
  }
  return { width, height, pixels };
}

/** The analytic sky as a picture: bright enough to resolve the glow about the sun, the sun itself left out. */
function skySurroundings(sky: SkyModel): SurroundingsPicture {
  const [width, height] = [512, 256];
  const radiance = skyModel(sky);
  const pixels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const theta = ((y + 0.5) / height) * Math.PI;
    for (let x = 0; x < width; x++) {
      const phi = (0.5 - (x + 0.5) / width) * 2 * Math.PI;
      const direction = [Math.sin(theta) * Math.sin(phi), Math.cos(theta), Math.sin(theta) * Math.cos(phi)] as const;
      pixels.set(radiance(direction), (y * width + x) * 3);
    }
  }
  return { width, height, pixels };
}

/**
 * Where a direction of the surroundings stands in the world: they are first tilted about x, so that what is overhead leans towards the
 * front (+z), and then turned about the vertical. Angles are radians.
 */
export function turnSurroundings([x, y, z]: Rgb, turn: number, tilt: number): [number, number, number] {
  const leaned = [x, y * Math.cos(tilt) - z * Math.sin(tilt), z * Math.cos(tilt) + y * Math.sin(tilt)] as const;
  return [
    leaned[0] * Math.cos(turn) + leaned[2] * Math.sin(turn),
    leaned[1],
    leaned[2] * Math.cos(turn) - leaned[0] * Math.sin(turn),
  ];
}

/** The direction of the surroundings that a direction of the world meets: the inverse of `turnSurroundings`. */
export function meetSurroundings([x, y, z]: Rgb, turn: number, tilt: number): [number, number, number] {
  const [a, c] = [x * Math.cos(turn) - z * Math.sin(turn), z * Math.cos(turn) + x * Math.sin(turn)];
  return [a, y * Math.cos(tilt) + c * Math.sin(tilt), c * Math.cos(tilt) - y * Math.sin(tilt)];
}

/** A picture with its contrast about its mean, saturation and blur; the same picture where they leave it. */
export function gradeSurroundings(picture: SurroundingsPicture, grade: SurroundingsGrade): SurroundingsPicture {
  const graded = grade.contrast === 1 && grade.saturation === 1 ? picture : gradeLight(picture, grade);
  return grade.blur > 0 ? blurSurroundings(graded, grade.blur) : graded;
}

function gradeLight(picture: SurroundingsPicture, { contrast, saturation }: SurroundingsGrade): SurroundingsPicture {
  const { width, height, pixels } = picture;
  const mean = Math.max(1e-6, meanLuminance(picture));
  const out = new Float32Array(pixels.length);
  for (let at = 0; at < pixels.length; at += 3) {
    const light = luminanceAt(pixels, at);
    if (light <= 0) continue;
    const scale = Math.min(BRIGHTEST, mean * (light / mean) ** contrast) / light;
    for (let k = at; k < at + 3; k++)
      out[k] = Math.min(BRIGHTEST, Math.max(0, light + (pixels[k]! - light) * saturation) * scale);
  }
  return { width, height, pixels: out };
}

/** Largest value of a half float, which pictures of surroundings hold at most. */
const BRIGHTEST = 65504;

const luminanceAt = (pixels: Float32Array, at: number): number =>
  0.2126 * pixels[at]! + 0.7152 * pixels[at + 1]! + 0.0722 * pixels[at + 2]!;

/** Mean luminance over the sphere. */
function meanLuminance({ width, height, pixels }: SurroundingsPicture): number {
  let [light, solid] = [0, 0];
  for (let y = 0; y < height; y++) {
    const sine = Math.sin(((y + 0.5) / height) * Math.PI);
    for (let at = y * width * 3; at < (y + 1) * width * 3; at += 3) light += sine * luminanceAt(pixels, at);
    solid += sine * width;
  }
  return light / solid;
}

/** Rows to a standard deviation of the blur: as many as a bell is smooth with. */
const ROWS_OF_BLUR = 3;

/** As fine as blurred surroundings are kept: a third of a degree. */
const MOST_ROWS = 512;

/** Blends directions by a bell of the angle between them, on a picture just fine enough to hold what is left. */
function blurSurroundings(picture: SurroundingsPicture, blur: number): SurroundingsPicture {
  const height = Math.max(16, Math.min(picture.height, MOST_ROWS, Math.ceil((ROWS_OF_BLUR * Math.PI) / blur)));
  const small = shrink(picture, Math.min(picture.width, height * 2), height);
  const { width, pixels } = small;
  const out = new Float32Array(pixels.length);
  const angle = (row: number) => ((row + 0.5) / height) * Math.PI;
  const reach = Math.ceil(((3 * blur) / Math.PI) * height);
  const weights = new Float64Array(width);
  const sums = new Float64Array(width * 3);
  for (let y = 0; y < height; y++) {
    const [sine, cosine] = [Math.sin(angle(y)), Math.cos(angle(y))];
    sums.fill(0);
    let whole = 0;
    for (let row = Math.max(0, y - reach); row <= Math.min(height - 1, y + reach); row++) {
      const [s, c] = [Math.sin(angle(row)), Math.cos(angle(row))];
      let most = 0;
      for (let aside = 0; aside <= width >> 1; aside++) {
        const apart = Math.acos(Math.min(1, sine * s * Math.cos((aside / width) * 2 * Math.PI) + cosine * c));
        if (apart > 3 * blur) break;
        weights[aside] = Math.exp(-0.5 * (apart / blur) ** 2) * s;
        whole += weights[aside]! * (aside === 0 || 2 * aside === width ? 1 : 2);
        most = aside + 1;
      }
      addRow(pixels, row * width, width, weights, most, sums);
    }
    for (let k = 0; k < width * 3; k++) out[y * width * 3 + k] = sums[k]! / whole;
  }
  return { width, height, pixels: out };
}

/** Adds a row, blended with itself to both sides by weights, as far as they go. */
function addRow(
  pixels: Float32Array,
  from: number,
  width: number,
  weights: Float64Array,
  most: number,
  to: Float64Array,
) {
  const length = width * 3;
  const row = pixels.subarray(from * 3, from * 3 + length);
  // Twice, so that no place has to be brought back round.
  const round = new Float32Array(length * 2);
  round.set(row);
  round.set(row, length);
  for (let aside = 0; aside < most; aside++) {
    const weight = weights[aside]!;
    const both = aside === 0 || 2 * aside === width ? [aside] : [aside, width - aside];
    for (const shift of both) for (let k = 0; k < length; k++) to[k]! += weight * round[k + shift * 3]!;
  }
}

/** The picture on fewer pixels, each the mean of what it covers by its solid angle, so that no light is lost. */
export function shrink(
  { width, height, pixels }: SurroundingsPicture,
  across: number,
  down: number,
): SurroundingsPicture {
  const out = new Float32Array(across * down * 3);
  const columns = Array.from({ length: across }, (_, x) => span(x, across, width));
  for (let y = 0; y < down; y++) {
    const rows = span(y, down, height).map(([row, part]) => [row, part * Math.sin(((row + 0.5) / height) * Math.PI)]);
    for (let x = 0; x < across; x++) {
      const to = (y * across + x) * 3;
      let whole = 0;
      for (const [row, down] of rows) {
        for (const [column, part] of columns[x]!) {
          const weight = part * down!;
          const at = (row! * width + column) * 3;
          whole += weight;
          out[to]! += weight * pixels[at]!;
          out[to + 1]! += weight * pixels[at + 1]!;
          out[to + 2]! += weight * pixels[at + 2]!;
        }
      }
      for (let k = to; k < to + 3; k++) out[k]! /= whole;
    }
  }
  return { width: across, height: down, pixels: out };
}

/** Which of `from` pixels in a row one of `to` covers, and how much of each. */
function span(k: number, to: number, from: number): [number, number][] {
  const [low, high] = [(k * from) / to, ((k + 1) * from) / to];
  const covered: [number, number][] = [];
  for (let at = Math.floor(low); at < Math.min(from, Math.ceil(high)); at++)
    covered.push([at, Math.min(high, at + 1) - Math.max(low, at)]);
  return covered;
}
