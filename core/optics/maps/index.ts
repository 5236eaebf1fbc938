import { z } from 'zod';
import type { MapSource as About } from './kind';
import { picture } from './picture';

/** Everything that a map can take its values from. */
export const MAP_SOURCES = { picture };

export type MapSourceKind = keyof typeof MAP_SOURCES;
type SourceSchema = (typeof MAP_SOURCES)[MapSourceKind]['schema'];
export const mapSourceSchema = z.discriminatedUnion(
  'kind',
  Object.values(MAP_SOURCES).map(({ schema }) => schema) as [SourceSchema, ...SourceSchema[]],
);
export type MapSource = z.infer<typeof mapSourceSchema>;

/** What core knows of a source's kind. */
export const aboutSource = ({ kind }: MapSource): About<MapSource> => MAP_SOURCES[kind] as About<MapSource>;

/** Id of the picture that a source reads, or null. */
export const pictureOfSource = (source: MapSource): string | null => aboutSource(source).picture(source);
