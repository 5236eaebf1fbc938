/**
 * Means over squares of 2 × reach + 1 pixels, cut off at the edges.
 * @param values a plane of one value a pixel
 */
export function boxMean(values: Float32Array, width: number, reach: number): Float32Array {
  const height = values.length / width;
  const rows = new Float32Array(values.length);
  const out = new Float32Array(values.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = Math.max(0, x - reach);
      const to = Math.min(width - 1, x + reach);
      let sum = 0;
      for (let i = from; i <= to; i++) sum += values[y * width + i]!;
      rows[y * width + x] = sum / (to - from + 1);
    }
  }
  for (let y = 0; y < height; y++) {
    const [from, to] = [Math.max(0, y - reach), Math.min(height - 1, y + reach)];
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = from; j <= to; j++) sum += rows[j * width + x]!;
      out[y * width + x] = sum / (to - from + 1);
    }
  }
  return out;
}
