import { gradeSurroundings, shrink, type SurroundingsPicture } from './surroundings';

/** Standard deviations of the directions that each level of `reflectionLevels` blends, radians. */
export const REFLECTION_BLURS = [0, 0.04, 0.1, 0.2, 0.35, 0.6, 1] as const;

/**
 * The light that surfaces get from a picture all around, as nine coefficients of red, green and blue each: irradiance on a surface
 * is their sum over the harmonics of its normal (Ramamoorthi and Hanrahan, An Efficient Representation for Irradiance Environment
 * Maps, 2001). Exact but for about 3% where light comes from all around, and smooth always.
 */
export function irradianceHarmonics(picture: SurroundingsPicture): Float32Array {
  const { pixels } = picture;
  // A picture of few pixels is one of large areas.
  const [width, height] = [Math.max(64, picture.width), Math.max(32, picture.height)];
  const sums = new Float64Array(27);
  for (let y = 0; y < height; y++) {
    const [top, bottom] = [(y / height) * Math.PI, ((y + 1) / height) * Math.PI];
    const theta = (top + bottom) / 2;
    const solid = ((Math.cos(top) - Math.cos(bottom)) * 2 * Math.PI) / width;
    for (let x = 0; x < width; x++) {
      const phi = (0.5 - (x + 0.5) / width) * 2 * Math.PI;
      const basis = harmonics([Math.sin(theta) * Math.sin(phi), Math.cos(theta), Math.sin(theta) * Math.cos(phi)]);
      const [column, row] = [Math.floor((x * picture.width) / width), Math.floor((y * picture.height) / height)];
      const at = (row * picture.width + column) * 3;
      for (let k = 0; k < 9; k++) for (let c = 0; c < 3; c++) sums[k * 3 + c]! += basis[k]! * pixels[at + c]! * solid;
    }
  }
  return Float32Array.from(sums, (sum, k) => sum * SPREAD[Math.floor(k / 3)]!);
}

/** How a cosine spreads each harmonic. */
const SPREAD = [Math.PI, ...Array<number>(3).fill((2 * Math.PI) / 3), ...Array<number>(5).fill(Math.PI / 4)];

/** The first nine real spherical harmonics of a unit direction. */
export function harmonics([x, y, z]: readonly [number, number, number]): number[] {
  return [
    0.282095,
    0.488603 * y,
    0.488603 * z,
    0.488603 * x,
    1.092548 * x * y,
    1.092548 * y * z,
    0.315392 * (3 * z * z - 1),
    1.092548 * x * z,
    0.546274 * (x * x - y * y),
  ];
}

/**
 * A picture all around as it is reflected by ever rougher surfaces: one level of `width` x `height` for each of REFLECTION_BLURS, one
 * after another, four numbers a pixel.
 */
export function reflectionLevels(picture: SurroundingsPicture, width: number, height: number): Float32Array {
  const out = new Float32Array(REFLECTION_BLURS.length * width * height * 4);
  // What a level cannot hold need not be blended.
  const base =
    picture.width > width || picture.height > height
      ? shrink(picture, Math.min(picture.width, width), Math.min(picture.height, height))
      : picture;
  REFLECTION_BLURS.forEach((blur, level) => {
    const blurred = gradeSurroundings(base, { contrast: 1, saturation: 1, blur: base.width > 1 ? blur : 0 });
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++)
        out.set(between(blurred, (x + 0.5) / width, (y + 0.5) / height), ((level * height + y) * width + x) * 4);
    }
  });
  return out;
}

/** The picture at a place, 0 to 1 from its left and top, blended between pixels; it closes from right to left. */
function between(
  { width, height, pixels }: SurroundingsPicture,
  u: number,
  v: number,
): [number, number, number, number] {
  const [x, y] = [u * width - 0.5, Math.min(height - 1, Math.max(0, v * height - 0.5))];
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const at = (i: number, j: number) => (Math.min(height - 1, j) * width + ((i + width) % width)) * 3;
  const [a, b, c, d] = [at(x0, y0), at(x0 + 1, y0), at(x0, y0 + 1), at(x0 + 1, y0 + 1)];
  const mix = (k: number) =>
    (pixels[a + k]! * (1 - fx) + pixels[b + k]! * fx) * (1 - fy) +
    (pixels[c + k]! * (1 - fx) + pixels[d + k]! * fx) * fy;
  return [mix(0), mix(1), mix(2), 1];
}
