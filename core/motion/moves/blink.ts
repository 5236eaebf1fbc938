import { count, number, share } from '../../document/properties/property';
import { moveKind, told } from './kind';
import { moveEnd } from './phase';

/** On and off, as often as one says. */
export const blink = moveKind(
  'blink',
  {
    low: told(number(0, { step: 0.05 })),
    high: told(number(1, { step: 0.05 })),
    /** Blinks in one run. */
    count: told(count(3, { min: 1, max: 10_000 })),
    /** Part of each blink that is on. */
    duty: told(share(0.5)),
    /** 0 switches hard, 1 swells like a breath. */
    softness: told(share(0.2)),
  },
  {},
  {
    title: 'Blink',
    on: ['shine'],
    cyclic: true,
    pace: 'linear',
    unpaced: true,
    close: () => undefined,
    drives: 'value',
    takes: ['number'],
    exclusive: false,
    // As bright as it is now at its brightest.
    begin: ({ present }) => (typeof present === 'number' && present > 0 ? { high: present } : {}),
    mapValues: (move, change) => void ([move.low, move.high] = change([move.low, move.high]) as [number, number]),
    /** `low` before, between and after blinks. */
    value(move, frame) {
      if (frame < move.start || frame >= moveEnd(move)) return move.low;
      const phase = (((frame - move.start) / move.length) * move.count) % 1;
      return move.low + (move.high - move.low) * blinkShape(phase, move.duty, move.softness);
    },
  },
);

/** A window of width `duty` whose flanks take the part `softness` of half the window, as raised cosines. */
function blinkShape(phase: number, duty: number, softness: number): number {
  if (phase >= duty) return 0;
  const flank = (softness * duty) / 2;
  const fromEdge = Math.min(phase, duty - phase);
  if (flank <= 0 || fromEdge >= flank) return 1;
  return 0.5 - 0.5 * Math.cos((Math.PI * fromEdge) / flank);
}
