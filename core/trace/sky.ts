import { SKY_COLUMNS, SKY_HEIGHT, SKY_MEAN, SKY_PIXELS, SKY_ROWS, SKY_SIZE, SKY_WIDTH } from '@zippy/kernel/layout';
import type { FrameState } from '../motion';
import type { SurroundingsPicture } from '../optics';
import type { KernelExports, KernelHeap } from '@zippy/kernel/host';

export interface LoadedSky {
  at: number;
  /** Mean luminance over the sphere. */
  mean: number;
}

/** What tells the graded picture around a frame from others; a plain colour is white, multiplied by its colour. */
export function surroundingsName({ set }: FrameState, contentOf: (asset: string) => string): string {
  const { kind, picture, mirrored, sky, gradient, contrast, saturation, blur } = set.surroundings;
  const grade = `${contrast}/${saturation}/${blur}`;
  if (kind === 'picture' && picture) return `picture/${contentOf(picture)}/${mirrored}/${grade}`;
  if (kind === 'sky') return `sky/${sky.elevation}/${sky.turbidity}/${grade}`;
  return kind === 'gradient' ? `gradient/${JSON.stringify(gradient)}/${grade}` : 'plain';
}

/** Copies surroundings into kernel memory with the tables from which bright places are chosen. */
export function loadSky(
  kernel: KernelExports,
  heap: KernelHeap,
  { width, height, pixels }: SurroundingsPicture,
): LoadedSky {
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
