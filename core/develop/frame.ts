import { FILM_FLOATS, FILM_PART, FILM_SQUARES } from '@zippy/kernel/layout';
import { UserProblem } from '../document';
import { readExr, writeExr, type Deflate } from './exr';

/** What the noise filter follows besides the light: planes of one value a pixel, top row first. */
export interface FrameGuides {
  /** x, y, z in the world. */
  normal: Float32Array[];
  /** Linear red, green, blue. */
  albedo: Float32Array[];
  /** Millimetres. */
  depth: Float32Array;
  /** Standard deviation of the mean luminance, where the frame knows it. */
  noise?: Float32Array;
}

/** A rendered frame as it is kept: linear light with its layers. */
export interface LinearFrame {
  width: number;
  height: number;
  /** Linear Rec. 709, alpha premultiplied: four values a pixel, top row first. */
  beauty: Float32Array;
  /** What the noise filter follows, where the file has it. */
  guides?: FrameGuides;
}

const FILM_CHANNELS = [
  ['R', 0, 'half'], ['G', 1, 'half'], ['B', 2, 'half'], ['A', 3, 'half'],
  ['normal.X', 4, 'half'], ['normal.Y', 5, 'half'], ['normal.Z', 6, 'half'],
  ['Z', 7, 'float'],
  ['albedo.R', 8, 'half'], ['albedo.G', 9, 'half'], ['albedo.B', 10, 'half'],
  ['part.id', FILM_PART, 'uint'], ['noise.Y', FILM_SQUARES, 'half'],
] as const; // prettier-ignore

/** An averaged film as an OpenEXR file with its layers. */
export function encodeFrame(
  film: Float32Array,
  width: number,
  height: number,
  identity: string,
  deflate?: Deflate,
): Uint8Array<ArrayBuffer> {
  const words = new Uint32Array(film.buffer, film.byteOffset, film.length);
  const channels = FILM_CHANNELS.map(([name, offset, type]) => {
    const data = type === 'uint' ? new Uint32Array(width * height) : new Float32Array(width * height);
    const source = type === 'uint' ? words : film;
    for (let k = 0; k < data.length; k++) data[k] = source[k * FILM_FLOATS + offset]!;
    return { name, type, data };
  });
  return writeExr({ width, height, channels }, { frameIdentity: identity }, deflate);
}

/** The picture of an averaged film that was not kept. */
export function filmFrame(film: Float32Array, width: number, height: number): LinearFrame {
  const count = width * height;
  const plane = (offset: number) => {
    const out = new Float32Array(count);
    for (let k = 0; k < count; k++) out[k] = film[k * FILM_FLOATS + offset]!;
    return out;
  };
  const beauty = new Float32Array(count * 4);
  for (let k = 0; k < count; k++) for (let c = 0; c < 4; c++) beauty[k * 4 + c] = film[k * FILM_FLOATS + c]!;
  const guides = {
    normal: [4, 5, 6].map(plane),
    albedo: [8, 9, 10].map(plane),
    depth: plane(7),
    noise: plane(FILM_SQUARES),
  };
  return { width, height, beauty, guides };
}

/** The picture of a kept frame. @throws UserProblem `exr-broken` */
export function decodeFrame(bytes: Uint8Array, deflate?: Deflate): LinearFrame {
  const { width, height, channels } = readExr(bytes, deflate);
  const beauty = new Float32Array(width * height * 4);
  ['R', 'G', 'B', 'A'].forEach((name, offset) => {
    const data = channels.find((channel) => channel.name === name)?.data;
    if (!data) throw new UserProblem('exr-broken', 'The frame on disk has no picture in it. Render it again.', 422);
    for (let k = 0; k < data.length; k++) beauty[k * 4 + offset] = data[k]!;
  });
  const layer = (name: string) => channels.find((channel) => channel.name === name)?.data as Float32Array | undefined;
  const normal = ['normal.X', 'normal.Y', 'normal.Z'].flatMap((name) => layer(name) ?? []);
  const albedo = ['albedo.R', 'albedo.G', 'albedo.B'].flatMap((name) => layer(name) ?? []);
  const depth = layer('Z');
  if (!depth || normal.length < 3 || albedo.length < 3) return { width, height, beauty };
  return { width, height, beauty, guides: { normal, albedo, depth, noise: layer('noise.Y') } };
}
