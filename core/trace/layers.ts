import {
  FILM_FLOATS,
  LAYER_BEHIND,
  LAYER_EMISSION,
  LAYER_LIGHTS,
  LAYER_MATTES,
  LAYER_MOTION,
  LAYER_OCCLUSION,
  LAYER_POSITION,
  LAYER_SHADOW,
  MATTE_RANKS,
} from '@zippy/kernel/layout';
import { LAYERS } from '../document';

export type Layer = (typeof LAYERS)[number];

const BITS: Record<Layer, number> = {
  position: LAYER_POSITION,
  motion: LAYER_MOTION,
  emission: LAYER_EMISSION,
  shadow: LAYER_SHADOW,
  occlusion: LAYER_OCCLUSION,
  mattes: LAYER_MATTES,
  behind: LAYER_BEHIND,
  lights: LAYER_LIGHTS,
};

export const layerBits = (layers: readonly Layer[]): number => layers.reduce((bits, layer) => bits | BITS[layer], 0);

/** Where each layer of a film's pixel begins, and how many floats a pixel takes. */
export function filmPlan(
  layers: readonly Layer[],
  groups: number,
): { at: Partial<Record<Layer, number>>; floats: number } {
  const sizes: Record<Layer, number> = {
    position: 3,
    motion: 2,
    emission: 3,
    shadow: 2,
    occlusion: 1,
    mattes: MATTE_RANKS * 4,
    behind: 4,
    lights: groups * 3,
  };
  const at: Partial<Record<Layer, number>> = {};
  let floats = FILM_FLOATS;
  for (const layer of LAYERS) {
    if (!layers.includes(layer)) continue;
    at[layer] = floats;
    floats += sizes[layer];
  }
  return { at, floats };
}
