/** A value from 0 to 1 for each whole number, the same again after `round` of them. */
export function hashed(k: number, round: number, seed: number): number {
  let x = (((k % round) + round) % round) * 0x9e3779b1 + seed * 0x85ebca6b;
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return ((x ^ (x >>> 15)) >>> 0) / 2 ** 32;
}

/** The values of whole numbers with smooth ways between them. */
export function smoothNoise(t: number, round: number, seed: number): number {
  const k = Math.floor(t);
  const f = t - k;
  const w = f * f * (3 - 2 * f);
  return (1 - w) * hashed(k, round, seed) + w * hashed(k + 1, round, seed);
}
