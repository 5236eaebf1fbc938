import { FINISH } from './properties';
import type { Finish } from './schema';

/**
 * A finish between two: numbers and colours lie between theirs, switches, choices and maps are those of the nearer one.
 * @param t 0 gives the first, 1 the second
 */
export function blendFinishes(a: Finish, b: Finish, t: number): Finish {
  const blended: Finish = { ...(t < 0.5 ? a : b), name: `${a.name} to ${b.name}`.slice(0, 200) };
  const between = (from: number, to: number) => from + (to - from) * t;
  for (const [name, { kind }] of Object.entries(FINISH)) {
    const [from, to] = [a[name as 'baseColor'], b[name as 'baseColor']] as unknown[];
    if (kind === 'number') Object.assign(blended, { [name]: between(from as number, to as number) });
    if (kind === 'color')
      Object.assign(blended, { [name]: (from as number[]).map((v, k) => between(v, (to as number[])[k]!)) });
  }
  return blended;
}
