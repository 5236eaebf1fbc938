import { filmPlan, type Layer } from './layers';
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
  behind: 8,
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

/** Bytes of kernel memory that a frame's film may take: a memory holds 4 GiB, with the scene in it. */
const MOST_FILM = 3.4e9;

/**
 * How far the film of a picture goes beyond what the tracer's memory holds.
 * @param lights light layers that it keeps
 * @returns null where it fits; else the bytes it needs, and the largest width at this shape that would fit
 */
export function filmBeyond(
  { width, height, layers }: RenderSettings,
  lights: number,
): { needed: number; width: number; most: number } | null {
  const each = filmPlan(layers, lights).floats * 4;
  const needed = width * height * each;
  if (needed <= MOST_FILM) return null;
  return { needed, most: MOST_FILM, width: Math.floor(width * Math.sqrt(MOST_FILM / needed)) };
}
