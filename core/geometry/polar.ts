import type { Quaternion } from './rotation';
import type { Transform } from './transform';

export interface Polar {
  translation: [number, number, number];
  rotation: Quaternion;
  /** Rows of what the part does before it is turned; symmetric, mirrored where the transform mirrors. */
  stretch: number[];
}

/** Splits a transform into translation, rotation and stretch (Shoemake and Duff, Matrix Animation and Polar Decomposition, 1992). */
export function polarDecomposition(m: Transform): Polar {
  const a = [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]] as number[];
  let q = a.slice();
  for (let k = 0; k < 24; k++) {
    const back = inverseTranspose(q);
    if (!back) break;
    const next = q.map((v, i) => (v + back[i]!) / 2);
    const change = next.reduce((sum, v, i) => sum + Math.abs(v - q[i]!), 0);
    q = next;
    if (change < 1e-12) break;
  }
  if (determinant3(q) < 0) q = q.map((v) => -v);
  const stretch = Array.from({ length: 9 }, (_, k) => {
    const [i, j] = [Math.floor(k / 3), k % 3];
    return q[i]! * a[j]! + q[3 + i]! * a[3 + j]! + q[6 + i]! * a[6 + j]!;
  });
  return { translation: [m[3], m[7], m[11]], rotation: quaternionOfRows(q), stretch };
}

const determinant3 = (q: number[]): number =>
  q[0]! * (q[4]! * q[8]! - q[5]! * q[7]!) -
  q[1]! * (q[3]! * q[8]! - q[5]! * q[6]!) +
  q[2]! * (q[3]! * q[7]! - q[4]! * q[6]!);

function inverseTranspose(q: number[]): number[] | null {
  const det = determinant3(q);
  if (Math.abs(det) < 1e-300) return null;
  const cofactor = (r: number, c: number) => {
    const [r1, r2, c1, c2] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
    return q[r1 * 3 + c1]! * q[r2 * 3 + c2]! - q[r1 * 3 + c2]! * q[r2 * 3 + c1]!;
  };
  return Array.from({ length: 9 }, (_, k) => cofactor(Math.floor(k / 3), k % 3) / det);
}

function quaternionOfRows(q: number[]): Quaternion {
  const [a, b, c, d, e, f, g, h, i] = q as [number, number, number, number, number, number, number, number, number];
  const candidates = [1 + a - e - i, 1 - a + e - i, 1 - a - e + i, 1 + a + e + i];
  const best = candidates.indexOf(Math.max(...candidates));
  const s = 2 * Math.sqrt(Math.max(1e-12, candidates[best]!));
  if (best === 0) return [s / 4, (b + d) / s, (c + g) / s, (h - f) / s];
  if (best === 1) return [(b + d) / s, s / 4, (f + h) / s, (c - g) / s];
  if (best === 2) return [(c + g) / s, (f + h) / s, s / 4, (d - b) / s];
  return [(h - f) / s, (c - g) / s, (d - b) / s, s / 4];
}
