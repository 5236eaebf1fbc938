/** Goes beyond the end by a part of the way and comes back, swings back before it begins, or both. */
export function overshot({ way, amount }: { way: 'after' | 'before' | 'both'; amount: number }, t: number): number {
  const c = strengthFor(amount);
  const after = (u: number) => 1 + (c + 1) * (u - 1) ** 3 + c * (u - 1) ** 2;
  if (way === 'after') return after(t);
  if (way === 'before') return 1 - after(1 - t);
  return t < 0.5 ? (1 - after(1 - 2 * t)) / 2 : 0.5 + after(2 * t - 1) / 2;
}

const known = new Map<number, number>();

/** The c for which 1 + (c + 1)(t - 1)^3 + c (t - 1)^2 rises to 1 + amount: its highest point is 4 c^3 / 27 (c + 1)^2 above 1. */
function strengthFor(amount: number): number {
  const there = known.get(amount);
  if (there !== undefined) return there;
  let low = 0;
  let high = 100;
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2;
    if ((4 * middle ** 3) / (27 * (middle + 1) ** 2) < amount) low = middle;
    else high = middle;
  }
  if (known.size > 1000) known.clear();
  known.set(amount, low);
  return low;
}
