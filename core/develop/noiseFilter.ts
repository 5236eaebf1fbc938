import { createKernelMemory, KernelHeap, startKernel, type KernelExports } from '@zippy/kernel/host';
import { FILTER_LEVELS, FILTER_MARGIN, FILTER_PLANES } from '@zippy/kernel/layout';
import { boxMean } from './boxMean';
import type { FrameGuides, LinearFrame } from './frame';
import { luminance } from './luminance';

/** Colour below which light is not divided by it: dark surfaces would turn noise into large numbers. */
const LEAST_ALBEDO = 0.04;
/** Pixels filtered at a time, so that a large frame fits into memory. */
const BAND_PIXELS = 4_000_000;
/** Rows beyond a band that its result depends on: two steps and a patch a level, one for specks, two for the first variance and
 * three for how far it is trusted. */
const REACH = 2 * (2 ** FILTER_LEVELS - 1) + FILTER_LEVELS + 6;

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
    [...normal, ...albedo, depth].forEach((source, k) => {
      for (let y = low; y < high; y++)
        planes.set(source.subarray(y * width, (y + 1) * width), (4 + k) * plane + corner + (y - low) * stride);
    });
    spread?.forEach((source, k) => {
      for (let y = low; y < high; y++)
        planes.set(source.subarray(y * width, (y + 1) * width), (16 + k) * plane + corner + (y - low) * stride);
    });
    if (spread) this.kernel.smoothAlbedo(at, width, high - low);
    const tints = [0, 1, 2].map((k) => {
      const tint = new Float32Array((high - low) * width);
      for (let y = 0; y < high - low; y++) {
        const from = (7 + k) * plane + corner + y * stride;
        tint.set(planes.subarray(from, from + width), y * width);
      }
      return tint;
    }) as [Float32Array, Float32Array, Float32Array];
    tints.forEach((tint, k) => {
      for (let y = low; y < high; y++) {
        let to = k * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++)
          planes[to++] = beauty[p * 4 + k]! / Math.max(LEAST_ALBEDO, tint[p - low * width]!);
      }
    });
    if (noise) {
      const [r, g, b] = tints;
      for (let y = low; y < high; y++) {
        let to = 3 * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++) {
          const own = p - low * width;
          const tint = luminance(r[own]!, g[own]!, b[own]!);
          planes[to++] = (noise[p]! / Math.max(LEAST_ALBEDO, tint)) ** 2;
        }
      }
    }
    this.kernel.denoise(at, width, high - low, noise !== undefined);
    const smooth = tints.map((tint, k) => {
      const out = new Float32Array((high - low) * width);
      for (let y = low; y < high; y++) {
        let from = k * plane + corner + (y - low) * stride;
        for (let p = y * width; p < (y + 1) * width; p++)
          out[p - low * width] = planes[from++]! * Math.max(LEAST_ALBEDO, tint[p - low * width]!);
      }
      return out;
    });
    const trust = noise ? trustOf(smooth, beauty, noise, width, low, high) : null;
    for (let k = 0; k < 3; k++) {
      for (let p = first * width; p < end * width; p++) {
        const own = p - low * width;
        result[p * 4 + k]! += amount * (trust ? trust[own]! : 1) * (smooth[k]![own]! - beauty[p * 4 + k]!);
      }
    }
  }
}

/** Pixels on each side over which noise and change are compared. */
const TRUST_REACH = 3;
/** A change up to this many times as large as the noise is taken for noise: few samples underrate their own spread. */
const TRUST_SLACK = 2;

/**
 * How far to follow the filter: where it changes the picture by more than the noise accounts for, the change is picture too
 * (after Stein, Estimation of the Mean of a Multivariate Normal Distribution, 1981).
 * @returns 0 to 1 for the pixels of rows `low` to `high`
 */
function trustOf(
  smooth: Float32Array[],
  beauty: Float32Array,
  noise: Float32Array,
  width: number,
  low: number,
  high: number,
): Float32Array {
  const count = (high - low) * width;
  const [changes, variances] = [new Float32Array(count), new Float32Array(count)];
  const [r, g, b] = smooth as [Float32Array, Float32Array, Float32Array];
  for (let k = 0; k < count; k++) {
    const p = k + low * width;
    const [red, green, blue] = [beauty[p * 4]!, beauty[p * 4 + 1]!, beauty[p * 4 + 2]!];
    const change = luminance(Math.abs(r[k]! - red), Math.abs(g[k]! - green), Math.abs(b[k]! - blue));
    changes[k] = change * change;
    variances[k] = noise[p]! ** 2;
  }
  const [change, variance] = [boxMean(changes, width, TRUST_REACH), boxMean(variances, width, TRUST_REACH)];
  return change.map((v, k) => (v > 0 ? Math.min(1, (TRUST_SLACK * variance[k]!) / v) : 1));
}
