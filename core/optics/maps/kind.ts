import { z } from 'zod';

/** All that core knows of what a map takes its values from. */
export interface MapSource<S> {
  title: string;
  /** Its number in the kernel. */
  code: number;
  /** Id of the picture that the kernel reads for it, and that stands for it where only pictures are known (glTF); null for none. */
  picture(source: S): string | null;
  /** What the kernel reads beside the picture, in the order in which it does. */
  parameters(source: S): readonly number[];
  /** The same source with another picture: what is brought to another project has other ids there. */
  withPicture(source: S, picture: string): S;
}

/** A kind of source by what the document keeps of it, besides its kind. */
export function mapSource<const K extends string, S extends z.ZodRawShape>(
  kind: K,
  shape: S,
  about: MapSource<z.infer<z.ZodObject<{ kind: z.ZodLiteral<K> } & S>>>,
) {
  return { kind, schema: z.object({ kind: z.literal(kind), ...shape }), ...about };
}
