import * as z from 'zod';
import { shapeOf, type Table } from '../../document/properties/property';

/** All that core knows of what a map takes its values from. */
export interface MapSource<S> {
  title: string;
  /** Its number in the kernel. */
  code: number;
  /** Its properties, all of which may move. */
  table: Table;
  /** Id of the picture that the kernel reads for it, and that stands for it where only pictures are known (glTF); null for none. */
  picture(source: S): string | null;
  /** What the kernel reads beside the picture, in the order in which it does: at most 12 numbers. */
  parameters(source: S): readonly number[];
  /** The same source with another picture: what is brought to another project has other ids there. */
  withPicture(source: S, picture: string): S;
}

type Told<S> = Pick<MapSource<S>, 'title' | 'code'> & Partial<MapSource<S>>;

/** A kind of source by its properties, and what else the document keeps of it. */
export function mapSource<const K extends string, T extends Table, R extends z.ZodRawShape = Record<never, never>>(
  kind: K,
  table: T,
  about: Told<z.infer<z.ZodObject<{ kind: z.ZodLiteral<K> } & ReturnType<typeof shapeOf<T>> & R>>>,
  rest: R = {} as R,
) {
  type S = z.infer<z.ZodObject<{ kind: z.ZodLiteral<K> } & ReturnType<typeof shapeOf<T>> & R>>;
  const whole: MapSource<S> = {
    table,
    picture: () => null,
    parameters: () => [],
    withPicture: (source) => source,
    ...about,
  };
  return { kind, schema: z.object({ kind: z.literal(kind), ...shapeOf(table), ...rest }), ...whole };
}
