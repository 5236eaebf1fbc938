import type { FrameGuides, LinearFrame } from '../frame';
import { luminance } from '../luminance';
import { INPUTS, WHOLE } from './network';

/** A network that is ready to run: planes of a picture in, three planes of filtered light out. Sides are multiples of WHOLE. */
export interface Network {
  run(planes: Float32Array, width: number, height: number): Promise<Float32Array>;
}

/** Pixels that are filtered at a time, so that memory stays below a gigabyte. */
const MOST_PIXELS = 640_000;
/** Pixels around a piece of the picture that its result depends on. */
const OVERLAP = 96;
/** Middle grey, to which the mean of a picture is brought before it is coded. */
const KEY = 0.18;

// Light as the eye tells it apart, fitted to luminances up to 65504 (Mantiuk and Azimi, PU21: A Novel Perceptually Uniform Encoding,
// 2021, in the form that the network was trained with).
const [A, B, C, D, E, F, G] = [
  1.41283765e3, 1.64593172, 4.31384981e-1, -2.94139609e-3, 1.92653254e-1, 6.26026094e-3, 9.98620152e-1,
] as const;
const [Y0, Y1, X0, X1] = [1.5794576e-6, 3.22087631e-2, 2.23151711e-3, 3.70974749e-1] as const;
const perceived = (y: number): number => (y <= Y0 ? A * y : y <= Y1 ? B * y ** C + D : E * Math.log(y + F) + G);
const lightOf = (x: number): number =>
  x <= X0 ? x / A : x <= X1 ? ((x - D) / B) ** (1 / C) : Math.exp((x - G) / E) - F;
const FULL = perceived(65504);

/** The learned noise filter: a network that has seen many noisy pictures beside clean ones, run piece by piece over a frame. */
export class LearnedFilter {
  constructor(private readonly network: Network) {}

  /** The frame's light without its noise, three values a pixel. */
  async filter({ width, height, beauty }: LinearFrame, guides: FrameGuides): Promise<Float32Array> {
    const scale = exposureOf(beauty);
    const result = new Float32Array(width * height * 3);
    for (const { left, top, right, bottom } of piecesOf(width, height)) {
      const wide = roundUp(Math.min(width, right + OVERLAP) - Math.max(0, left - OVERLAP));
      const high = roundUp(Math.min(height, bottom + OVERLAP) - Math.max(0, top - OVERLAP));
      const [x0, y0] = [Math.max(0, left - OVERLAP), Math.max(0, top - OVERLAP)];
      const planes = new Float32Array(INPUTS * wide * high);
      const size = wide * high;
      for (let y = 0; y < high; y++) {
        for (let x = 0; x < wide; x++) {
          const from = mirrored(y0 + y, height) * width + mirrored(x0 + x, width);
          const to = y * wide + x;
          for (let c = 0; c < 3; c++) {
            planes[c * size + to] = perceived(Math.min(65504, Math.max(0, beauty[from * 4 + c]! * scale || 0))) / FULL;
            planes[(3 + c) * size + to] = Math.min(1, Math.max(0, guides.albedo[c]![from]!));
            planes[(6 + c) * size + to] = Math.min(1, Math.max(-1, guides.normal[c]![from]!)) * 0.5 + 0.5;
          }
        }
      }
      const out = await this.network.run(planes, wide, high);
      for (let y = top; y < bottom; y++)
        for (let x = left; x < right; x++)
          for (let c = 0; c < 3; c++) {
            const coded = out[c * size + (y - y0) * wide + (x - x0)]!;
            result[(y * width + x) * 3 + c] = lightOf(Math.max(0, coded) * FULL) / scale;
          }
    }
    return result;
  }
}

/** By what light is multiplied so that the mean of its logarithm is middle grey. */
function exposureOf(beauty: Float32Array): number {
  let sum = 0;
  let count = 0;
  for (let at = 0; at < beauty.length; at += 4) {
    const light = luminance(beauty[at]!, beauty[at + 1]!, beauty[at + 2]!);
    if (!(light > 1e-8 && light < 1e8)) continue;
    sum += Math.log2(light);
    count++;
  }
  return count > 0 ? KEY / 2 ** (sum / count) : 1;
}

const roundUp = (side: number): number => Math.ceil(side / WHOLE) * WHOLE;
/** A place inside, beyond the border as in a mirror there. */
function mirrored(at: number, size: number): number {
  const period = Math.max(1, 2 * size - 2);
  const within = ((at % period) + period) % period;
  return within < size ? within : period - within;
}

/** Pieces of a picture that are small enough with what lies around them; one where it is small as a whole. */
function* piecesOf(
  width: number,
  height: number,
): Generator<{ left: number; top: number; right: number; bottom: number }> {
  const fits = roundUp(width) * roundUp(height) <= MOST_PIXELS;
  const side = Math.floor(Math.sqrt(MOST_PIXELS)) - 2 * OVERLAP - WHOLE;
  const [across, down] = fits ? [1, 1] : [Math.ceil(width / side), Math.ceil(height / side)];
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++)
      yield {
        left: Math.floor((i * width) / across),
        top: Math.floor((j * height) / down),
        right: Math.floor(((i + 1) * width) / across),
        bottom: Math.floor(((j + 1) * height) / down),
      };
}
