import type { LinearFrame } from './frame';

/** What the filter follows besides the light itself; three values a pixel, depth one. */
export interface FrameGuides {
  normal: Float32Array;
  albedo: Float32Array;
  depth: Float32Array;
}

const KERNEL = [1 / 16, 1 / 4, 3 / 8, 1 / 4, 1 / 16];
const LEVELS = 3;
/** Colour below which light is not divided by it: dark surfaces would turn noise into large numbers. */
const LEAST_ALBEDO = 0.04;

/**
 * Smooths noise but not edges of surface, colour or shadow: an à-trous filter over light divided by albedo, guided by
 * normal, albedo, depth and by how noisy the neighbourhood is (Dammertz et al., Edge-Avoiding À-Trous Wavelet Transform for fast
 * Global Illumination Filtering, 2010; weights and variance after Schied et al., Spatiotemporal Variance-Guided Filtering, 2017).
 * @param amount 0 leaves the frame as it is, 1 shows the filtered one
 */
export function denoise(frame: LinearFrame, guides: FrameGuides, amount: number): Float32Array {
  const { width, height, beauty } = frame;
  const count = width * height;
  const albedo = (pixel: number, k: number) => Math.max(LEAST_ALBEDO, guides.albedo[pixel * 3 + k]!);
  let light: Float32Array = new Float32Array(count * 3);
  for (let p = 0; p < count; p++) for (let k = 0; k < 3; k++) light[p * 3 + k] = beauty[p * 4 + k]! / albedo(p, k);
  light = tameSpecks(light, width, height);
  let variance = localVariance(light, width, height);
  for (let level = 0; level < LEVELS; level++) {
    ({ light, variance } = filterLevel(light, variance, guides, width, height, 1 << level));
  }
  const result = beauty.slice();
  for (let p = 0; p < count; p++) {
    for (let k = 0; k < 3; k++) {
      const at = p * 4 + k;
      result[at] = beauty[at]! + amount * (light[p * 3 + k]! * albedo(p, k) - beauty[at]!);
    }
  }
  return result;
}

const luminanceAt = (light: Float32Array, p: number): number =>
  0.2126 * light[p * 3]! + 0.7152 * light[p * 3 + 1]! + 0.0722 * light[p * 3 + 2]!;

/** A pixel far brighter than all its neighbours is brought down to the brightest of them. */
function tameSpecks(light: Float32Array, width: number, height: number): Float32Array {
  const out = light.slice();
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      let most = 0;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if (dx === 0 && dy === 0) continue;
          const [qx, qy] = [x + dx, y + dy];
          if (qx >= 0 && qy >= 0 && qx < width && qy < height)
            most = Math.max(most, luminanceAt(light, qy * width + qx));
        }
      }
      const own = luminanceAt(light, p);
      if (own > most * 1.5 && own > 0) for (let k = 0; k < 3; k++) out[p * 3 + k] = (light[p * 3 + k]! * most) / own;
    }
  }
  return out;
}

/** Variance of luminance in 5 × 5 pixels: a first guess of the noise, too large at edges, where the guides hold. */
function localVariance(light: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let squares = 0;
      let count = 0;
      for (let qy = Math.max(0, y - 2); qy <= Math.min(height - 1, y + 2); qy++) {
        for (let qx = Math.max(0, x - 2); qx <= Math.min(width - 1, x + 2); qx++) {
          const l = luminanceAt(light, qy * width + qx);
          sum += l;
          squares += l * l;
          count++;
        }
      }
      const mean = sum / count;
      out[y * width + x] = Math.max(0, squares / count - mean * mean);
    }
  }
  return out;
}

/** exp(-x) nearly enough for a weight, and much cheaper. */
const falling = (x: number): number => 1 / (1 + x + 0.5 * x * x);

function squaredDistance(data: Float32Array, p: number, q: number): number {
  const x = data[p]! - data[q]!;
  const y = data[p + 1]! - data[q + 1]!;
  const z = data[p + 2]! - data[q + 2]!;
  return x * x + y * y + z * z;
}

function filterLevel(
  light: Float32Array,
  variance: Float32Array,
  { normal, albedo, depth }: FrameGuides,
  width: number,
  height: number,
  step: number,
): { light: Float32Array; variance: Float32Array } {
  const out = new Float32Array(light.length);
  const luminance = new Float32Array(variance.length);
  for (let p = 0; p < luminance.length; p++) luminance[p] = luminanceAt(light, p);
  const outVariance = new Float32Array(variance.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      const p3 = p * 3;
      const own = luminance[p]!;
      const perSpread = 1 / (2.2 * Math.sqrt(variance[p]!) + 1e-4 + own * 0.01);
      const perReach = 1 / (depth[p]! * 0.004 * step + 0.5);
      const far = depth[p]!;
      let r = 0;
      let g = 0;
      let b = 0;
      let total = 0;
      let squares = 0;
      for (let j = -2; j <= 2; j++) {
        const qy = y + j * step;
        if (qy < 0 || qy >= height) continue;
        for (let i = -2; i <= 2; i++) {
          const qx = x + i * step;
          if (qx < 0 || qx >= width) continue;
          const q = qy * width + qx;
          const q3 = q * 3;
          const dn = squaredDistance(normal, p3, q3);
          const da = squaredDistance(albedo, p3, q3);
          const dz = Math.abs(far - depth[q]!) * perReach;
          const dl = Math.abs(own - luminance[q]!) * perSpread;
          const w = KERNEL[i + 2]! * KERNEL[j + 2]! * falling(dn * 24 + da * 120 + dz + dl * (0.5 * dl + 0.3));
          r += w * light[q3]!;
          g += w * light[q3 + 1]!;
          b += w * light[q3 + 2]!;
          total += w;
          squares += w * w * variance[q]!;
        }
      }
      out[p3] = r / total;
      out[p3 + 1] = g / total;
      out[p3 + 2] = b / total;
      outVariance[p] = squares / (total * total);
    }
  }
  return { light: out, variance: outVariance };
}
