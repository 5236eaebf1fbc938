/** Rests, then moves on by one step, `count` times. */
export function stepped({ count, moving, swing }: { count: number; moving: number; swing: number }, t: number): number {
  const k = Math.min(count - 1, Math.floor(t * count));
  const within = t * count - k;
  if (within >= 1) return 1;
  const u = moving > 0 ? (within - (1 - moving)) / moving : 0;
  return (k + (u > 0 ? settled(u, swing) : 0)) / count;
}

/** From 0 to 1, and to rest there: without swing it slows down, with more of it it swings past and back, up to half a step. */
export const settled = (u: number, swing: number): number =>
  u >= 1 ? 1 : 1 - (1 - u) ** 2 * Math.cos(3 * Math.PI * swing * u);
