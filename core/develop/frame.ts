import {
  BUCKETS,
  FILM_AXIS,
  FILM_BUCKETS,
  FILM_GUIDE_SQUARES,
  FILM_PART,
  FILM_SAMPLES,
  FILM_SQUARES,
  MATTE_RANKS,
} from '@zippy/kernel/layout';
import { plainLayerName, UserProblem, type Look } from '../document';
import { readExr, writeExr, type Deflate, type ExrChannel } from './exr';
import { luminance } from './luminance';
import { matteChannels, matteText } from './mattes';
import { speckShare } from './specks';

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
  /** Variances of the means of normal, albedo and depth: where focus or motion blurs them, they are noisy themselves. */
  spread?: Float32Array[];
  /** Pixels across and down until the next frame, where the frame keeps them. */
  motion?: Float32Array[];
}

/** A rendered frame as it is kept: linear light with its layers. */
export interface LinearFrame {
  width: number;
  height: number;
  /** Linear Rec. 709, alpha premultiplied: four values a pixel, top row first. */
  beauty: Float32Array;
  guides?: FrameGuides;
  /** The light as the learned filter leaves it, three values a pixel, where it has been at the frame. */
  learned?: Float32Array;
  /** What each pixel keeps of its light where bright specks are weighed down. */
  specks?: Float32Array;
  /** Number of the part that each pixel shows, 0 for none; numbers are the frame's own. */
  parts?: Uint32Array;
}

/** An averaged film and what its pixels hold. */
export interface KeptFilm {
  film: Float32Array;
  width: number;
  height: number;
  floats: number;
  layers: Partial<Record<string, number>>;
  groups: string[];
  mattes: { parts: string[]; finishes: string[] };
}

const FILM_CHANNELS = [
  ['R', 0, 'half'], ['G', 1, 'half'], ['B', 2, 'half'], ['A', 3, 'half'],
  ['normal.X', 4, 'half'], ['normal.Y', 5, 'half'], ['normal.Z', 6, 'half'],
  ['Z', FILM_AXIS, 'float'], ['distance.Y', 7, 'float'],
  ['albedo.R', 8, 'half'], ['albedo.G', 9, 'half'], ['albedo.B', 10, 'half'],
  ['part.id', FILM_PART, 'uint'], ['noise.Y', FILM_SQUARES, 'half'],
  ['spread.N', FILM_GUIDE_SQUARES, 'float'], ['spread.A', FILM_GUIDE_SQUARES + 1, 'float'], ['spread.Z', FILM_GUIDE_SQUARES + 2, 'float'],
] as const; // prettier-ignore

const LAYER_CHANNELS: Record<string, [string, number, ExrChannel['type']][]> = {
  position: [['position.X', 0, 'float'], ['position.Y', 1, 'float'], ['position.Z', 2, 'float']],
  motion: [['motion.X', 0, 'half'], ['motion.Y', 1, 'half']],
  emission: [['emission.R', 0, 'half'], ['emission.G', 1, 'half'], ['emission.B', 2, 'half']],
  occlusion: [['occlusion.Y', 0, 'half']],
  behind: [['behind.R', 0, 'half'], ['behind.G', 1, 'half'], ['behind.B', 2, 'half'], ['cover.Y', 3, 'half']],
}; // prettier-ignore

/** A light layer's name in the file, numbered where others come out alike. */
function layerName(group: string, all: string[]): string {
  const own = plainLayerName(group);
  const alike = all.filter((other) => plainLayerName(other) === own);
  return alike.length > 1 ? `${own}_${alike.indexOf(group) + 1}` : own;
}

/** An averaged film as an OpenEXR file with its layers. */
export function encodeFrame(kept: KeptFilm, identity: string, deflate?: Deflate): Uint8Array<ArrayBuffer> {
  const { film, width, height, floats, layers, groups, mattes } = kept;
  const words = new Uint32Array(film.buffer, film.byteOffset, film.length);
  const count = width * height;
  const plane = (offset: number, type: ExrChannel['type'] = 'half') => {
    const data = type === 'uint' ? new Uint32Array(count) : new Float32Array(count);
    const source = type === 'uint' ? words : film;
    for (let k = 0; k < count; k++) data[k] = source[k * floats + offset]!;
    return data;
  };
  const channels: ExrChannel[] = FILM_CHANNELS.map(([name, offset, type]) => ({
    name,
    type,
    data: plane(offset, type),
  }));
  channels.push({ name: 'specks.Y', type: 'half', data: specksOf(kept) });
  for (const [layer, own] of Object.entries(LAYER_CHANNELS)) {
    const at = layers[layer];
    if (at !== undefined)
      for (const [name, offset, type] of own) channels.push({ name, type, data: plane(at + offset, type) });
  }
  if (layers['shadow'] !== undefined) {
    const [lit, unshaded] = [plane(layers['shadow']), plane(layers['shadow'] + 1)];
    const data = new Float32Array(count).map((_, k) => (unshaded[k]! > 0 ? 1 - lit[k]! / unshaded[k]! : 0));
    channels.push({ name: 'shadow.Y', type: 'half', data });
  }
  const text: Record<string, string> = { frameIdentity: identity };
  if (layers['mattes'] !== undefined) {
    for (const [k, [name, names]] of (
      [
        ['crypto_part', mattes.parts],
        ['crypto_finish', mattes.finishes],
      ] as const
    ).entries()) {
      channels.push(...matteChannels(name, film, words, count, floats, layers['mattes'] + k * MATTE_RANKS * 2));
      Object.assign(text, matteText(name, names));
    }
  }
  const lights = layers['lights'];
  if (lights !== undefined) {
    groups.forEach((group, g) => {
      ['R', 'G', 'B'].forEach((letter, c) =>
        channels.push({
          name: `light_${layerName(group, groups)}.${letter}`,
          type: 'half',
          data: plane(lights + g * 3 + c),
        }),
      );
    });
  }
  return writeExr({ width, height, channels }, text, deflate);
}

function specksOf({ film, width, height, floats }: KeptFilm): Float32Array {
  const shares = new Float32Array(width * height);
  const buckets = new Float32Array(BUCKETS);
  for (let k = 0; k < shares.length; k++) {
    const at = k * floats;
    for (let b = 0; b < BUCKETS; b++) buckets[b] = film[at + FILM_BUCKETS + b]!;
    shares[k] = speckShare(buckets, film[at + FILM_SAMPLES]!);
  }
  return shares;
}

/** The picture of an averaged film that was not kept. */
export function filmFrame(kept: KeptFilm): LinearFrame {
  const { film, width, height, floats, layers } = kept;
  const count = width * height;
  const motion = layers['motion'];
  const plane = (offset: number) => {
    const out = new Float32Array(count);
    for (let k = 0; k < count; k++) out[k] = film[k * floats + offset]!;
    return out;
  };
  const beauty = new Float32Array(count * 4);
  for (let k = 0; k < count; k++) for (let c = 0; c < 4; c++) beauty[k * 4 + c] = film[k * floats + c]!;
  const guides = {
    normal: [4, 5, 6].map(plane),
    albedo: [8, 9, 10].map(plane),
    depth: plane(7),
    noise: plane(FILM_SQUARES),
    spread: [0, 1, 2].map((k) => plane(FILM_GUIDE_SQUARES + k)),
    ...(motion === undefined ? {} : { motion: [plane(motion), plane(motion + 1)] }),
  };
  const words = new Uint32Array(film.buffer, film.byteOffset, film.length);
  const parts = Uint32Array.from({ length: count }, (_, k) => words[k * floats + FILM_PART]!);
  return { width, height, beauty, guides, specks: specksOf(kept), parts };
}

const LIGHT_LAYER = /^light_(.+)\.[RGB]$/;

/** Names of the light layers among a kept frame's channels. */
export function lightLayers(channels: Iterable<string>): string[] {
  const names = new Set<string>();
  for (const channel of channels) {
    const name = LIGHT_LAYER.exec(channel)?.[1];
    if (name) names.add(name);
  }
  return [...names];
}

const BEHIND = /^(behind\.[RGB]|cover\.Y)$/;
const DEVELOPED = /^([RGBAZ]|(normal|albedo|noise|spread|specks|motion|distance)\.[A-Z]|part\.id)$/;

/** Takes what is seen behind out of a frame's light, and leaves it as open as things leave what is behind. */
function takeOffBehind(beauty: Float32Array, behind: Float32Array[], cover: Float32Array): void {
  for (let k = 0; k < cover.length; k++) {
    // A shadow on a bright plate keeps less than rounding loses of it.
    for (let c = 0; c < 3; c++) beauty[k * 4 + c] = Math.max(0, beauty[k * 4 + c]! - behind[c]![k]!);
    beauty[k * 4 + 3] = cover[k]!;
  }
}

/**
 * The picture of a kept frame; layers that developing does not need are not read.
 * @param lights what its light layers are multiplied by
 * @param alone without what is seen behind, where the frame keeps that
 * @throws UserProblem `exr-broken`
 */
export function decodeFrame(
  bytes: Uint8Array,
  deflate?: Deflate,
  lights: Look['lights'] = {},
  alone = false,
): LinearFrame {
  const { width, height, channels } = readExr(bytes, deflate, (name) => {
    const light = LIGHT_LAYER.exec(name)?.[1];
    if (alone && BEHIND.test(name)) return true;
    return light === undefined ? DEVELOPED.test(name) : Object.hasOwn(lights, light);
  });
  const beauty = new Float32Array(width * height * 4);
  ['R', 'G', 'B', 'A'].forEach((name, offset) => {
    const data = channels.find((channel) => channel.name === name)?.data;
    if (!data) throw new UserProblem('exr-broken', 'The frame on disk has no picture in it. Render it again.', 422);
    for (let k = 0; k < data.length; k++) beauty[k * 4 + offset] = data[k]!;
  });
  const layer = (name: string) => channels.find((channel) => channel.name === name)?.data as Float32Array | undefined;
  const planes = (...names: string[]) => names.flatMap((name) => layer(name) ?? []);
  const normal = planes('normal.X', 'normal.Y', 'normal.Z');
  const albedo = planes('albedo.R', 'albedo.G', 'albedo.B');
  const spread = planes('spread.N', 'spread.A', 'spread.Z');
  const motion = planes('motion.X', 'motion.Y');
  // Frames of earlier versions keep the length of the ray as Z.
  const depth = layer('distance.Y') ?? layer('Z');
  const specks = layer('specks.Y');
  const before = Object.keys(lights).length > 0 ? beauty.slice() : null;
  for (const [name, { power, tint }] of Object.entries(lights)) {
    ['R', 'G', 'B'].forEach((letter, c) => {
      const data = layer(`light_${name}.${letter}`);
      // The picture is the sum of its layers: what one gains, it gains.
      const more = power * tint[c]! - 1;
      if (data)
        for (let k = 0; k < data.length; k++) beauty[k * 4 + c] = Math.max(0, beauty[k * 4 + c]! + more * data[k]!);
    });
  }
  const cover = layer('cover.Y');
  if (cover) takeOffBehind(beauty, planes('behind.R', 'behind.G', 'behind.B'), cover);
  const parts = channels.find(({ name }) => name === 'part.id')?.data as Uint32Array | undefined;
  const picture = { width, height, beauty, ...(specks ? { specks } : {}), ...(parts ? { parts } : {}) };
  if (!depth || normal.length < 3 || albedo.length < 3) return picture;
  const noise = layer('noise.Y');
  // Noise grows and shrinks with its light.
  if (noise && before) for (let k = 0; k < noise.length; k++) noise[k]! *= brightened(before, beauty, k * 4);
  return {
    ...picture,
    guides: {
      normal,
      albedo,
      depth,
      ...(noise ? { noise } : {}),
      ...(spread.length === 3 ? { spread } : {}),
      ...(motion.length === 2 ? { motion } : {}),
    },
  };
}

function brightened(before: Float32Array, after: Float32Array, at: number): number {
  const [was, is] = [before, after].map((light) => luminance(light[at]!, light[at + 1]!, light[at + 2]!)) as [number, number]; // prettier-ignore
  return was > 0 ? is / was : 1;
}
