import * as z from 'zod';
import { length, shapeOf, still, type Property, type Table } from '../../document/properties/property';
import type { TriangleMesh } from '../sweep';
import type { Transform } from '../transform';

/** A dimension of a body. */
export const size = () => still(length(100, { min: 0.01, max: 1e6 }));
/** A dimension that may be nothing. */
export const bevel = () => still(length(0, { min: 0, max: 1e6 }));

type ValuesOf<T extends Table> = { -readonly [N in keyof T]: z.infer<T[N]['schema']> };

/** A body that takes away what is within it. */
export interface Cut {
  kind: 'box' | 'cylinder';
  /** From the cube -1 to 1, or the upright cylinder in it, to the set piece's own space. */
  body: Transform;
}

interface Body<T extends Table> {
  title: string;
  /** Raised when its triangles change, so that frames that show it are made anew. */
  revision?: number;
  /** Dimensions that fit a product. @param part millimetres that are this part of the product's largest extent */
  proportions(part: (of: number) => number): ValuesOf<T>;
  /** Its triangles with normals, picture coordinates and faces; it stands on y = 0, over its origin. */
  mesh(piece: ValuesOf<T>): TriangleMesh;
  cut?(piece: ValuesOf<T>): Cut;
}

/** All that core knows of a kind of set piece: its dimensions and its body. */
export function setPiece<const K extends string, T extends Record<string, Property>>(
  kind: K,
  properties: T,
  body: Body<T>,
) {
  return { kind, properties, schema: z.object({ kind: z.literal(kind), ...shapeOf(properties) }), ...body };
}
