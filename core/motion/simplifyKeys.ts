import type { Key, PropertyKind, Value } from '../document';
import { trackValue } from './track';

/**
 * Fewer keys that say nearly the same: each that is left out lies within a tolerance of the straight way between those that stay, on
 * every frame of it (Douglas and Peucker, Algorithms for the reduction of the number of points, 1973). What is held, or has no values
 * between, stays.
 * @param share the tolerance, of the span of the values
 */
export function simplifyKeys(keys: readonly Key[], kind: PropertyKind, share = 0.01): Key[] {
  if (keys.length < 3 || kind === 'boolean' || kind === 'choice') return [...keys];
  const numbers = keys.map(({ value }) => (Array.isArray(value) ? value : [Number(value)]));
  const spans = numbers[0]!.map(
    (_, k) => Math.max(...numbers.map((each) => each[k]!)) - Math.min(...numbers.map((each) => each[k]!)),
  );
  const tolerance = share * Math.max(...spans, 1e-9);
  const kept = new Set([0, keys.length - 1]);
  keys.forEach(({ pace }, k) => {
    if (pace !== 'held') return;
    kept.add(k);
    kept.add(Math.min(keys.length - 1, k + 1));
  });
  const open: [number, number][] = [];
  const marks = [...kept].sort((a, b) => a - b);
  for (let k = 1; k < marks.length; k++) open.push([marks[k - 1]!, marks[k]!]);
  while (open.length > 0) {
    const [first, last] = open.pop()!;
    let worst = 0;
    let off = tolerance;
    const ends = [{ ...keys[first]!, pace: 'linear' as const }, keys[last]!];
    for (let k = first + 1; k < last; k++) {
      const away = distance(trackValue(ends, keys[k]!.frame, kind), keys[k]!.value);
      if (away > off) [worst, off] = [k, away];
    }
    if (worst === 0) continue;
    kept.add(worst);
    open.push([first, worst], [worst, last]);
  }
  return keys.flatMap((key, k) =>
    kept.has(k) ? [key.pace === 'held' ? key : { ...key, pace: 'linear' as const }] : [],
  );
}

function distance(a: Value, b: Value): number {
  if (Array.isArray(a) && Array.isArray(b)) return Math.max(...a.map((v, k) => Math.abs(v - b[k]!)));
  return Math.abs(Number(a) - Number(b));
}
