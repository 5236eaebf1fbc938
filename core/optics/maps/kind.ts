import { z } from 'zod';

/** All that core knows of what a map takes its values from. */
export interface MapSource<S> {
  title: string;
  /** Ids of the assets it reads. */
  assets(source: S): string[];
}

/** A kind of source by what the document keeps of it, besides its kind. */
export function mapSource<const K extends string, S extends z.ZodRawShape>(
  kind: K,
  shape: S,
  about: MapSource<z.infer<z.ZodObject<S>>>,
) {
  return { kind, schema: z.object({ kind: z.literal(kind), ...shape }), ...about };
}
