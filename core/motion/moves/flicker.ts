import * as z from 'zod';
import { idSchema } from '../../document/properties/ids';
import { choice, count, number } from '../../document/properties/property';
import { LIMITS } from '../../document/properties/limits';
import { moveKind, told } from './kind';
import { hashed, smoothNoise } from './noise';

export const FLICKERS = ['candle', 'fire', 'tube', 'random', 'footage'] as const;

/** Unsteady light: of a flame, a faulty tube, at random, or as bright as footage is. One run ends as it began. */
export const flicker = moveKind(
  'flicker',
  {
    pattern: told(choice(FLICKERS, 'candle')),
    low: told(number(0, { step: 0.05 })),
    high: told(number(1, { step: 0.05 })),
    /** Frames from one change to the next; footage keeps its own time. */
    every: told(number(3, { unit: 'frames', min: 0.1, max: 1000, step: 0.5 })),
    seed: told(count(1, { max: 1_000_000 })),
  },
  {
    /** Asset id of the footage that it follows. */
    footage: { schema: idSchema.nullable(), default: null as string | null },
    /** Its brightness from frame to frame, 0 to 1, spread over one run. */
    brightness: { schema: z.array(z.number().min(0).max(1)).max(LIMITS.footageFrames), default: [] as number[] },
  },
  {
    title: 'Flicker',
    on: ['shine'],
    cyclic: true,
    pace: 'linear',
    unpaced: true,
    close: () => undefined,
    drives: 'value',
    takes: ['number'],
    exclusive: false,
    begin: ({ present }) => (typeof present === 'number' && present > 0 ? { high: present } : {}),
    loops: () => true,
    mapValues: (move, change) => void ([move.low, move.high] = change([move.low, move.high]) as [number, number]),
    /** `high` before and after it. */
    value(move, frame) {
      const passed = frame - move.start;
      if (passed < 0 || passed >= move.length * move.repeat) return move.high;
      return move.low + (move.high - move.low) * shareOf(move, passed % move.length);
    },
  },
);

interface Flickering {
  pattern: (typeof FLICKERS)[number];
  length: number;
  every: number;
  seed: number;
  brightness: readonly number[];
}

/** How bright it is, 0 to 1. @param at frames into a run */
function shareOf({ pattern, length, every, seed, brightness }: Flickering, at: number): number {
  // Whole changes, so that the last one leads to the first.
  const changes = Math.max(1, Math.round(length / every));
  const t = (at / length) * changes;
  const wave = (fineness: number, of: number) => smoothNoise(t * fineness, changes * fineness, seed * 16 + of);
  switch (pattern) {
    case 'candle': {
      // Mostly steady; now and then a draught bends it.
      const draught = Math.max(0, wave(1, 1) - 0.7) / 0.3;
      return clamp(0.92 + 0.16 * (wave(2, 2) - 0.5) - 0.6 * draught * wave(4, 3));
    }
    case 'fire':
      return clamp(0.15 + 0.5 * wave(1, 1) + 0.25 * wave(2, 2) + 0.2 * wave(4, 3));
    case 'tube': {
      // It burns but for fits, in which it goes out and comes back at once.
      const fit = hashed(Math.floor(t / 4), Math.ceil(changes / 4), seed * 16 + 1) < 0.4;
      return fit ? (hashed(Math.floor(t), changes, seed * 16 + 2) < 0.5 ? 0 : 1) : 1;
    }
    case 'random':
      return wave(1, 1);
    case 'footage': {
      if (brightness.length === 0) return 1;
      return brightness[Math.min(brightness.length - 1, Math.floor((at / length) * brightness.length + 1e-6))]!;
    }
  }
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
