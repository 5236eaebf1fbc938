import type { Look } from '../document';
import { readExr, readExrHeader, type Deflate } from './exr';
import { layersOf, layerView, matteAt, matteOf, type LayerPicture, type LayerSource, type MatteKind } from './layers';
import { matteNames } from './mattes';

const MATTES = /^crypto_(part|finish)\d\d\.[RGBA]$/;

/** Channels of a kept frame that are wanted, and what its mattes stand for. @throws UserProblem `exr-broken` */
function openLayers(bytes: Uint8Array, look: Look, wanted: (name: string) => boolean, deflate?: Deflate): LayerSource {
  const { text } = readExrHeader(bytes);
  const { width, height, channels } = readExr(bytes, deflate, wanted);
  const planes = new Map(channels.map(({ name, data }) => [name, data]));
  const names = { parts: matteNames('crypto_part', text), finishes: matteNames('crypto_finish', text) };
  return { width, height, look, names, channel: (name) => planes.get(name) };
}

/** Names of the layers that a kept frame can be looked at by. @throws UserProblem `exr-broken` */
export const keptLayers = (bytes: Uint8Array): string[] =>
  layersOf(readExrHeader(bytes).channels.map(({ name }) => name));

/**
 * One layer of a kept frame as it is looked at; null where the frame does not keep it, or it is one that is developed.
 * @throws UserProblem `exr-broken`
 */
export function showLayer(
  bytes: Uint8Array,
  layer: string,
  look: Look,
  deflate?: Deflate,
): (LayerPicture & { width: number; height: number }) | null {
  const view = layerView(layer);
  if (!view?.picture || !keptLayers(bytes).includes(layer)) return null;
  const needed = new Set(view.channels);
  const mattes = view.channels.some((name) => MATTES.test(name));
  const source = openLayers(
    bytes,
    look,
    (name) => name === 'A' || needed.has(name) || (mattes && MATTES.test(name)),
    deflate,
  );
  return { ...view.picture(source), width: source.width, height: source.height };
}

/** Which parts or finishes a matte is of. */
export interface Matte {
  of: 'parts' | 'finishes';
  names: readonly string[];
}
const KINDS: Record<Matte['of'], MatteKind> = { parts: 'crypto_part', finishes: 'crypto_finish' };

/** White where things of these names are, black elsewhere. @throws UserProblem `exr-broken` */
export function showMatte(
  bytes: Uint8Array,
  { of, names }: Matte,
  look: Look,
  deflate?: Deflate,
): LayerPicture & { width: number; height: number } {
  const source = openLayers(bytes, look, (name) => MATTES.test(name), deflate);
  const cover = matteOf(source, KINDS[of], names);
  const pixels = new Float32Array(cover.length * 4).fill(1);
  for (let at = 0; at < cover.length; at++) pixels.fill(cover[at]!, at * 4, at * 4 + 3);
  return { pixels, range: null, width: source.width, height: source.height };
}

/** What is at a point of a kept frame. */
export interface Probed {
  /** Linear Rec. 709, not multiplied by the alpha; 1 is 683 nits. */
  light: [number, number, number];
  alpha: number;
  /** Millimetres along the line of sight; null where nothing is met. */
  depth: number | null;
  /** What covers most of the pixel, where the frame keeps mattes. */
  part: string | null;
  finish: string | null;
}

const PROBED = /^([RGBAZ]|crypto_(part|finish)00\.[RGBA])$/;

/**
 * What a kept frame says at a point.
 * @param at part of the picture from its left and from its top, 0 to 1
 * @throws UserProblem `exr-broken`
 */
export function probeLayers(bytes: Uint8Array, at: { x: number; y: number }, look: Look, deflate?: Deflate): Probed {
  const source = openLayers(bytes, look, (name) => PROBED.test(name), deflate);
  const { width, height } = source;
  const [x, y] = [Math.min(width - 1, Math.floor(at.x * width)), Math.min(height - 1, Math.floor(at.y * height))];
  const pixel = Math.max(0, y) * width + Math.max(0, x);
  const value = (name: string) => source.channel(name)?.[pixel] ?? 0;
  const [alpha, depth] = [value('A'), value('Z')];
  const light = ['R', 'G', 'B'].map((name) => (alpha > 0 ? value(name) / alpha : 0)) as Probed['light'];
  return {
    light,
    alpha,
    depth: depth > 0 && depth < 1e9 ? depth : null,
    part: matteAt(source, 'crypto_part', pixel),
    finish: matteAt(source, 'crypto_finish', pixel),
  };
}
