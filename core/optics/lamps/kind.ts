import type { z } from 'zod';
import { type LIGHT } from '../../document/properties/light';

/** A lamp's properties, without what only a document says of it. */
export type Lamp = { -readonly [N in keyof typeof LIGHT]: z.infer<(typeof LIGHT)[N]['schema']> };

/** What the tracer reads of a lamp beside its place, axes and radiance. Angles as cosines. */
interface LampShape {
  gradient?: number;
  softEdge?: number;
  cosOuter?: number;
  cosInner?: number;
  /** Tangent of the angle at which a grid lets nothing through. */
  grid?: number;
}

/** All that core knows of a kind of lamp. Lengths are millimetres, areas mm². */
export interface LampKind {
  /** What people call a new one. */
  title: string;
  /** Its number in the kernel. */
  code: number;
  /** What a new one has that plain defaults do not tell. */
  begin: Partial<Lamp> & Pick<Lamp, 'power'>;
  /** Dimensions of one that goes with a product. @param size edge of a panel for it */
  proportions(size: number): Partial<Pick<Lamp, 'width' | 'height' | 'radius'>>;
  /** What its power is told in; in lumens, watts, nits and candela where nothing is said. */
  units?: readonly Lamp['unit'][];
  /** The lamp that shines in its place, where it is none of its own. @param away how far from what it is aimed at */
  stands?(lamp: Lamp, away?: number): { kind: 'panel' | 'disc'; lamp: Lamp };
  /** Stands nowhere: only its direction counts. */
  far?: boolean;
  /** Shines all around instead of to one side. */
  around?: boolean;
  /** What it shines from, on one side of it. */
  area(lamp: Lamp): number;
  /** What it shows of itself from where it is brightest; its area where nothing is said. */
  facing?(lamp: Lamp): number;
  /** ∫ cosine over the directions it shines to: π for the whole half space. */
  spread?(lamp: Lamp): number;
  /** Share of its brightest radiance that it has on average. */
  mean?(lamp: Lamp): number;
  /** Half its extents along its own x and y. */
  halves(lamp: Lamp): readonly [number, number];
  /** Radius of the ball round its middle that holds it. */
  reach(lamp: Lamp): number;
  /** How far it reaches along an axis of the world. @param x and y parts of its own axes along that axis */
  along(lamp: Lamp, x: number, y: number): number;
  shape?(lamp: Lamp): LampShape;
  /** Its dimensions when it is drawn larger or smaller by factors along its own axes; without, it has none of its own. */
  sized?(
    lamp: Lamp,
    by: readonly [number, number, number],
  ): Partial<Pick<Lamp, 'width' | 'height' | 'radius' | 'spanWidth' | 'spanHeight'>>;
}

/** Of several factors the one that changes most. */
const farthest = (by: readonly number[]): number =>
  Math.abs(by.reduce((a, b) => (Math.abs(Math.log(Math.abs(b))) > Math.abs(Math.log(Math.abs(a))) ? b : a)));

/** A round lamp reaches as far in every direction. */
export const byRadius = { reach: ({ radius }: Lamp) => radius, along: ({ radius }: Lamp) => radius };
/** It grows as a whole, whichever of its axes is drawn at. */
export const sizedByRadius = ({ radius }: Lamp, by: readonly number[]): Pick<Lamp, 'radius'> => ({
  radius: radius * farthest(by),
});

/** Means over a sheet with a soft edge, of coordinates from -1 to 1: of how much shines there, and of that times its square. */
export function softMeans(edge: number): { whole: number; square: number } {
  const steps = 256;
  let [whole, square] = [0, 0];
  for (let k = 0; k < steps; k++) {
    const a = (k + 0.5) / steps;
    const shines = softness(1 - a, edge);
    whole += shines / steps;
    square += (shines * a * a) / steps;
  }
  return { whole, square };
}

/** How much of a sheet shines so far within its edge, where the edge is so soft: as flatRadiance of the kernel has it. */
function softness(within: number, edge: number): number {
  if (edge <= 0) return 1;
  const t = Math.min(1, Math.max(0, within / edge));
  return t * t * (3 - 2 * t);
}

/** Mean over a disc with a soft edge, of what is darker by half the gradient times r². */
export function softDiscMean(edge: number, gradient: number): number {
  const steps = 256;
  let sum = 0;
  for (let k = 0; k < steps; k++) {
    const r = (k + 0.5) / steps;
    sum += (softness(1 - r, edge) * (1 - (gradient / 2) * r * r) * 2 * r) / steps;
  }
  return sum;
}
