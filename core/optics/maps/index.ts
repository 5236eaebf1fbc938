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

/** Ids of the assets that a source reads. */
export const assetsOfSource = (source: MapSource): string[] =>
  (MAP_SOURCES[source.kind] as About<MapSource>).assets(source);
