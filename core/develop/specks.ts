import { BUCKETS } from '@zippy/kernel/layout';

/** Unevenness of the buckets from which on the outer ones are left out. */
const EVEN = 0.25;

/**
 * What a pixel keeps of its mean when samples that stand alone are weighed down: the samples lie in buckets, and the more unevenly
 * the buckets are filled (Gini coefficient), the more of the fullest and emptiest of them are left out (Buisine, Delepoulle and
 * Renaud, Firefly removal in Monte Carlo rendering with adaptive Median of meaNs, 2021).
 * @param sums luminance of every fifth sample
 * @param samples how many samples the buckets hold together
 * @returns 1 where nothing stands out, less where a few samples carry the pixel; never more
 */
export function speckShare(sums: Float32Array, samples: number): number {
  if (samples < 2 * BUCKETS) return 1;
  const means = Array.from(sums, (sum, k) => sum / Math.floor((samples - k + BUCKETS - 1) / BUCKETS)).sort(
    (a, b) => a - b,
  );
  const total = means.reduce((sum, v) => sum + v, 0);
  if (!(total > 0)) return 1;
  const weighted = means.reduce((sum, v, k) => sum + (k + 1) * v, 0);
  const gini = (2 * weighted) / (BUCKETS * total) - (BUCKETS + 1) / BUCKETS;
  if (gini <= EVEN) return 1;
  const cut = Math.min((BUCKETS - 1) / 2, Math.max(1, Math.floor(gini * (BUCKETS / 2) + 0.5)));
  const kept = means.slice(cut, BUCKETS - cut);
  const mean = kept.reduce((sum, v) => sum + v, 0) / kept.length;
  return Math.min(1, mean / (total / BUCKETS));
}
