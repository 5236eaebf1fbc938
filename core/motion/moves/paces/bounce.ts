/**
 * A body that falls from 0 and bounces off 1, each time for as long as its speed lasts: parabolas of one gravity.
 * @param count bounces until it lies still
 * @param height part of the height that a bounce reaches of the one before
 */
export function bounced({ count, height }: { count: number; height: number }, t: number): number {
  const speed = Math.sqrt(height);
  let whole = 1;
  for (let k = 1; k <= count; k++) whole += 2 * speed ** k;
  let left = t * whole;
  if (left < 1) return left * left;
  left -= 1;
  for (let k = 1; k <= count; k++) {
    const half = speed ** k;
    if (left < 2 * half) return 1 - (half * half - (left - half) ** 2);
    left -= 2 * half;
  }
  return 1;
}
