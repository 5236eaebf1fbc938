import { lightLayers } from '../frame';
import { albedo } from './albedo';
import { alpha } from './alpha';
import { depth } from './depth';
import { emission } from './emission';
import { finishes } from './finishes';
import type { LayerView } from './layer';
import { developLight } from './light';
import { motion } from './motion';
import { noise } from './noise';
import { normal } from './normal';
import { occlusion } from './occlusion';
import { parts } from './parts';
import { position } from './position';
import { product } from './product';
import { shadow } from './shadow';

export { PRODUCT_ALONE } from './product';
export { matteAt, matteOf, type MatteKind } from './mattes';
export type { LayerPicture, LayerSource, LayerView } from './layer';

/** Every layer that can be looked at, besides the picture itself and each light. */
const VIEWS = { alpha, product, depth, normal, albedo, parts, finishes, shadow, occlusion, emission, position, motion, noise } satisfies Record<string, LayerView>; // prettier-ignore
/** Before the name of a light layer. */
const LIGHT = 'light:';

/** How a layer is looked at; undefined where there is none of that name. */
export function layerView(name: string): LayerView | undefined {
  if (!name.startsWith(LIGHT)) return Object.hasOwn(VIEWS, name) ? VIEWS[name as keyof typeof VIEWS] : undefined;
  const light = name.slice(LIGHT.length);
  const channels = ['R', 'G', 'B'].map((letter) => `light_${light}.${letter}`);
  return {
    title: light.replaceAll('_', ' '),
    says: 'What this light does alone',
    channels,
    picture: (source) => ({ pixels: developLight(source, channels), range: null }),
  };
}

/** Names of the layers that a kept frame of these channels can be looked at by. */
export function layersOf(channels: readonly string[]): string[] {
  const there = new Set(channels);
  const own = Object.entries(VIEWS).flatMap(([name, view]: [string, LayerView]) => view.channels.every((each) => there.has(each)) ? [name] : []); // prettier-ignore
  return [...own, ...lightLayers(channels).map((light) => LIGHT + light)];
}
