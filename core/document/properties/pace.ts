import * as z from 'zod';
import { choice, count, number, shapeOf, share, type Table } from './property';

const unit = z.number().min(0).max(1);
const finite = z.number().min(-1e9).max(1e9);

/** Paces without numbers: even, eased in three strengths at both ends, at the beginning or at the end, and held. */
export const PLAIN_PACES = [
  'linear',
  'ease', 'ease-in', 'ease-out',
  'soft', 'soft-in', 'soft-out',
  'strong', 'strong-in', 'strong-out',
  'held',
] as const; // prettier-ignore

/** Paces with numbers of their own. */
export const PACES = {
  /** In equal steps. */
  stepped: {
    count: count(4, { min: 1, max: 10_000 }),
    /** Part of each step's time in which it moves, at its end; 0 jumps. */
    moving: share(0.4),
    /** 0 stops dead, 1 swings past and back. */
    swing: share(0.4),
  },
  /** Beyond its end and back, or back before it begins. */
  overshoot: {
    way: choice(['after', 'before', 'both'], 'after'),
    /** How far beyond, of the whole way. */
    amount: number(0.1, { unit: '%', scale: 0.01, min: 0, max: 2 }),
  },
  /** As a mass on a spring. */
  spring: {
    /** Swings that it would make undamped in the time it has. */
    stiffness: number(3, { unit: '×', min: 0.1, max: 100, step: 0.1 }),
    /** Part of the damping with which it would just not swing. */
    damping: number(0.35, { min: 0.01, max: 5, step: 0.05 }),
  },
  /** Falls and bounces off the end. */
  bounce: {
    count: count(3, { min: 1, max: 20 }),
    /** Part of the height that a bounce reaches of the one before. */
    height: number(0.3, { unit: '%', scale: 0.01, min: 0.01, max: 0.95 }),
  },
} satisfies Record<string, Table>;

export type PaceKind = keyof typeof PACES;

/** How something travels from one value to the next over its time. */
export const paceSchema = z.union([
  z.enum(PLAIN_PACES),
  /** Cubic Bézier handles (x1, y1, x2, y2) of a curve from (0, 0) to (1, 1). */
  z.object({ curve: z.tuple([unit, finite, unit, finite]) }),
  z.object({ stepped: z.object(shapeOf(PACES.stepped)) }),
  z.object({ overshoot: z.object(shapeOf(PACES.overshoot)) }),
  z.object({ spring: z.object(shapeOf(PACES.spring)) }),
  z.object({ bounce: z.object(shapeOf(PACES.bounce)) }),
]);

export type Pace = z.infer<typeof paceSchema>;
