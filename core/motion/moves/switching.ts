import * as z from 'zod';
import { LIMITS } from '../../document/properties/limits';
import { choice, number } from '../../document/properties/property';
import { valueSchema, type Value } from '../../document/properties/value';
import { moveKind, told } from './kind';
import { moveEnd } from './phase';

/** From one value to another and back at exact frames, by a list of them or by a pattern. */
export const switching = moveKind(
  'switching',
  {
    by: told(choice(['frames', 'pattern'], 'frames')),
    /** Frames that each sign of a pattern takes. */
    every: told(number(6, { unit: 'frames', min: 1, max: 100_000, step: 1 })),
  },
  {
    /** What it is, and what it is switched to. */
    first: { schema: valueSchema, default: false as Value },
    second: { schema: valueSchema, default: true as Value },
    /** Frames after its start at which it changes over, ascending. */
    frames: {
      schema: z.array(z.number().int().min(0).max(LIMITS.framesPerShot)).max(LIMITS.switches),
      default: [] as number[],
    },
    /** 0 for the first value and 1 for the second, again and again while it lasts. */
    pattern: { schema: z.string().regex(/^[01]{1,200}$/), default: '10' },
  },
  {
    title: 'Switch',
    on: ['switch'],
    cyclic: true,
    pace: 'held',
    unpaced: true,
    drives: 'value',
    takes: ['number', 'vector', 'boolean', 'choice'],
    exclusive: true,
    begin({ present }) {
      if (present === undefined) return {};
      return { first: present, second: other(present) };
    },
    loops: ({ by, frames }) => by === 'pattern' || frames.length % 2 === 0,
    close(move, length) {
      move.frames = move.frames.filter((each) => move.start + each <= length);
      if (move.frames.length % 2 === 1) move.frames.push(length + 1 - move.start);
    },
    retimed: (move, factor) => void (move.frames = [...new Set(move.frames.map((each) => Math.round(each * factor)))]),
    mapValues: (move, change) => void ([move.first, move.second] = change([move.first, move.second]) as [Value, Value]),
    /** The first value before it begins. By a pattern, that is what comes back at its end; by frames, the last change stays. */
    value(move, frame) {
      // A fraction of a frame belongs to the frame that it is in.
      const whole = Math.floor(frame + 1e-9);
      if (whole < move.start) return move.first;
      if (move.by === 'pattern') {
        if (whole >= moveEnd(move)) return move.first;
        const sign = Math.floor((whole - move.start) / move.every) % move.pattern.length;
        return move.pattern[sign] === '1' ? move.second : move.first;
      }
      return move.frames.filter((each) => move.start + each <= whole).length % 2 === 1 ? move.second : move.first;
    },
  },
);

/** What something is switched to when nothing is said. */
function other(present: Value): Value {
  if (typeof present === 'boolean') return !present;
  if (typeof present === 'number') return present === 0 ? 1 : 0;
  return Array.isArray(present) ? [0, 0, 0] : present;
}
