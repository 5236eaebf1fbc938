import * as z from 'zod';
import { LIMITS } from '../../document/properties/limits';
import { valueSchema, type Value } from '../../document/properties/value';
import { blendValues } from './blend';
import { moveKind } from './kind';
import { paced } from './paces';
import { movePhase } from './phase';

const stopSchema = z.object({ at: z.number().min(0).max(1), value: valueSchema });
type Stop = z.infer<typeof stopSchema>;

/** One property through several values: a colour through a row of colours, a colour temperature from dusk to day. */
export const stops = moveKind(
  'stops',
  {},
  {
    /** In order of time, `at` a share of one run. */
    stops: { schema: z.array(stopSchema).min(1).max(LIMITS.stops), default: [{ at: 0, value: 0 }] as Stop[] },
  },
  {
    title: 'Through stops',
    on: ['tint'],
    cyclic: true,
    pace: 'linear',
    drives: 'value',
    takes: ['number', 'vector'],
    exclusive: true,
    begin: ({ present }) => (present === undefined ? {} : { stops: begun(present) }),
    loops: ({ stops: row, mirrored }) => mirrored || alike(row[0]!.value, row.at(-1)!.value),
    close(move) {
      move.stops = [...move.stops.slice(0, -1), { at: 1, value: move.stops[0]!.value }];
      if (move.stops.length === 1) move.stops = [{ ...move.stops[0]!, at: 0 }];
    },
    mapValues(move, change) {
      const values = change(move.stops.map(({ value }) => value));
      move.stops = move.stops.map(({ at }, k) => ({ at, value: values[k]! }));
    },
    value: (move, frame, turns) => valueAt(move.stops, paced(move.pace, movePhase(move, true, frame).within), turns),
  },
);

/** A row that is seen at once: from what is there through another value and back. */
function begun(present: Value): Stop[] {
  const other: Value =
    typeof present === 'number' ? present * 2 || 1 : Array.isArray(present) ? [present[2], present[0], present[1]] : present; // prettier-ignore
  const value = alike(other, present) && Array.isArray(present) ? ([1, 0.35, 0.1] as [number, number, number]) : other;
  return [
    { at: 0, value: present },
    { at: 0.5, value },
    { at: 1, value: present },
  ];
}

const alike = (a: Value, b: Value): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Between the stops that lie about a share of the way; held before the first and after the last. */
function valueAt(row: readonly Stop[], share: number, turns: boolean): Value {
  const after = row.findIndex(({ at }) => at > share);
  if (after === 0) return row[0]!.value;
  if (after < 0) return row.at(-1)!.value;
  const [a, b] = [row[after - 1]!, row[after]!];
  return blendValues(a.value, b.value, (share - a.at) / (b.at - a.at), turns);
}
