import { SKY_COLUMNS, SKY_HEIGHT, SKY_MEAN, SKY_PIXELS, SKY_ROWS, SKY_SIZE, SKY_WIDTH } from '@zippy/kernel/layout';
import type { KernelExports, KernelHeap } from '@zippy/kernel/host';

/** Equirectangular picture, top row first, three linear values a pixel. */
export interface SkyPicture {
  width: number;
  height: number;
  pixels: Float32Array;
}

export interface LoadedSky {
  at: number;
  /** Mean luminance over the sphere. */
  mean: number;
}

/** The same colour from everywhere: one pixel, which the kernel neither looks up nor chooses from. */
export const plainSky = (color: readonly [number, number, number]): SkyPicture => ({
  width: 1,
  height: 1,
  pixels: new Float32Array(color),
});

/** Copies surroundings into kernel memory with the tables from which bright places are chosen. */
export function loadSky(kernel: KernelExports, heap: KernelHeap, { width, height, pixels }: SkyPicture): LoadedSky {
  const at = heap.allocate(SKY_SIZE);
  const picture = heap.copy(pixels);
  const rows = heap.allocate((height + 1) * 4);
  const columns = heap.allocate(height * (width + 1) * 4);
  const { u32, f32 } = heap.views();
  u32[(at + SKY_PIXELS) / 4] = picture;
  u32[(at + SKY_WIDTH) / 4] = width;
  u32[(at + SKY_HEIGHT) / 4] = height;
  u32[(at + SKY_ROWS) / 4] = rows;
  u32[(at + SKY_COLUMNS) / 4] = columns;
  kernel.prepareSky(at);
  return { at, mean: f32[(at + SKY_MEAN) / 4]! };
}
