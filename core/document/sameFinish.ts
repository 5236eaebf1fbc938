import type { Finish } from './schema';

/** Whether two finishes look the same, whatever they are called. */
export function sameFinish(a: Finish, b: Finish): boolean {
  const looks = ({ id: _, name: __, ...rest }: Finish) => JSON.stringify(sorted(rest));
  return looks(a) === looks(b);
}

/** The same value with names in one order. */
function sorted(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, part]) => [name, sorted(part)]),
  );
}
