import type { Layer } from './layers';
import type { RenderSettings } from './settings';

/** Bytes of a pixel in a kept frame before packing: what every frame keeps, and what each layer adds. */
const ALWAYS = 52;
const OF_LAYER: Record<Layer, number> = {
  position: 12,
  motion: 4,
  emission: 6,
  shadow: 2,
  occlusion: 2,
  mattes: 96,
  lights: 6,
};
/** What packing leaves: light is noisy and hardly packs, mattes and numbers of parts pack well. */
const PACKED = 0.5;

/**
 * About how many bytes frames take on the disk.
 * @param lights light layers that each keeps
 */
export function frameBytes({ width, height, layers }: RenderSettings, frames: number, lights: number): number {
  const each = layers.reduce((sum, layer) => sum + OF_LAYER[layer] * (layer === 'lights' ? lights : 1), ALWAYS);
  return frames * width * height * each * PACKED;
}
