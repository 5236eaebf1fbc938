import { createKernelMemory, KernelHeap, startKernel, type KernelExports } from '@zippy/kernel/host';
import { FILTER_LEVELS, FILTER_MARGIN, FILTER_PLANES } from '@zippy/kernel/layout';
import type { FrameGuides, LinearFrame } from './frame';

/** Colour below which light is not divided by it: dark surfaces would turn noise into large numbers. */
const LEAST_ALBEDO = 0.04;
/** Pixels filtered at a time, so that a large frame fits into memory. */
const BAND_PIXELS = 4_000_000;
/** Rows beyond a band that its result depends on: two steps a level, one for specks and two for the first variance. */
const REACH = 2 * (2 ** FILTER_LEVELS - 1) + 3;

/** The kernel's noise filter over whole frames; see kernel/assembly/denoise.ts. */
export class NoiseFilter {
  private constructor(
    private readonly kernel: KernelExports,
    private readonly memory: WebAssembly.Memory,
    private readonly bandPixels: number,
  ) {}

  static async open(
    module: WebAssembly.Module,
    { bandPixels = BAND_PIXELS, shared = true } = {},
  ): Promise<NoiseFilter> {
    const memory = createKernelMemory(shared);
    return new NoiseFilter(await startKernel(module, memory, 0), memory, bandPixels);
  }

  /**
   * The frame's light without its noise, laid out as `frame.beauty`; alpha stays.
   * @param amount 0 leaves the frame as it is, 1 shows the filtered one
   */
  filter(frame: LinearFrame, guides: FrameGuides, amount: number): Float32Array {
    const { width, height } = frame;
    const result = frame.beauty.slice();
    const rows = Math.max(16, Math.floor(this.bandPixels / width));
    for (let row = 0; row < height; row += rows) {
      this.filterBand(frame, guides, amount, row, Math.min(height, row + rows), result);
    }
    return result;
  }

  private filterBand(
    { width, height, beauty }: LinearFrame,
    { normal, albedo, depth, noise, spread }: FrameGuides,
    amount: number,
    first: number,
    end: number,
    result: Float32Array,
  ): void {
    const low = Math.max(0, first - REACH);
    const high = Math.min(height, end + REACH);
    const stride = ((width + 3) & ~3) + 2 * FILTER_MARGIN;
    const plane = stride * (high - low + 2 * FILTER_MARGIN);
    const at = new KernelHeap(this.memory).allocate(plane * FILTER_PLANES * 4);
    const planes = new Float32Array(this.memory.buffer, at, plane * FILTER_PLANES).fill(0);
    const corner = FILTER_MARGIN * stride + FILTER_MARGIN;
    for (let k = 0; k < 3; k++) {
      const tint = albedo[k]!;
      for (let y = low; y < high; y++) {
        let to = k * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++)
          planes[to++] = beauty[p * 4 + k]! / Math.max(LEAST_ALBEDO, tint[p]!);
      }
    }
    [...normal, ...albedo, depth].forEach((source, k) => {
      for (let y = low; y < high; y++)
        planes.set(source.subarray(y * width, (y + 1) * width), (4 + k) * plane + corner + (y - low) * stride);
    });
    spread?.forEach((source, k) => {
      for (let y = low; y < high; y++)
        planes.set(source.subarray(y * width, (y + 1) * width), (16 + k) * plane + corner + (y - low) * stride);
    });
    if (noise) {
      const [r, g, b] = albedo as [Float32Array, Float32Array, Float32Array];
      for (let y = low; y < high; y++) {
        let to = 3 * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++) {
          const tint = 0.2126 * r[p]! + 0.7152 * g[p]! + 0.0722 * b[p]!;
          planes[to++] = (noise[p]! / Math.max(LEAST_ALBEDO, tint)) ** 2;
        }
      }
    }
    this.kernel.denoise(at, width, high - low, noise !== undefined);
    for (let k = 0; k < 3; k++) {
      const tint = albedo[k]!;
      for (let y = first; y < end; y++) {
        let from = k * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++) {
          const smooth = planes[from++]! * Math.max(LEAST_ALBEDO, tint[p]!);
          result[p * 4 + k]! += amount * (smooth - beauty[p * 4 + k]!);
        }
      }
    }
  }
}
