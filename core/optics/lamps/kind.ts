import type { z } from 'zod';
import { type LIGHT } from '../../document/properties/light';

/** A lamp's properties, without what only a document says of it. */
export type Lamp = { -readonly [N in keyof typeof LIGHT]: z.infer<(typeof LIGHT)[N]['schema']> };

/** What the tracer reads of a lamp beside its place, axes and radiance. Angles as cosines. */
interface LampShape {
  gradient?: number;
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
  sized?(lamp: Lamp, by: readonly [number, number, number]): Partial<Pick<Lamp, 'width' | 'height' | 'radius'>>;
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
