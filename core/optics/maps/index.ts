import * as z from 'zod';
import { defaultsOf, type Table } from '../../document/properties/property';
import { facing } from './facing';
import { footage } from './footage';
import { gradient } from './gradient';
import type { MapSource as About } from './kind';
import { noise } from './noise';
import { partRandom } from './partRandom';
import { picture } from './picture';
import { wear } from './wear';

/** Everything that a map can take its values from. */
export const MAP_SOURCES = { picture, footage, gradient, noise, wear, facing, partRandom };

export type MapSourceKind = keyof typeof MAP_SOURCES;
/** What needs no file. */
export type MadeSourceKind = Exclude<MapSourceKind, 'picture' | 'footage'>;
export const MADE_SOURCES = Object.keys(MAP_SOURCES).filter(
  (kind) => kind !== 'picture' && kind !== 'footage',
) as MadeSourceKind[];
type SourceSchema = (typeof MAP_SOURCES)[MapSourceKind]['schema'];
export const mapSourceSchema = z.discriminatedUnion(
  'kind',
  Object.values(MAP_SOURCES).map(({ schema }) => schema) as unknown as [SourceSchema, ...SourceSchema[]],
);
export type MapSource = z.infer<typeof mapSourceSchema>;

/** What core knows of a source's kind. */
export const aboutSource = ({ kind }: MapSource): About<MapSource> => MAP_SOURCES[kind] as unknown as About<MapSource>;

/** Id of the picture that a source reads, or null. */
export const pictureOfSource = (source: MapSource): string | null => aboutSource(source).picture(source);

/** A source as it comes when nothing else is said. */
export const newSource = (kind: MadeSourceKind): MapSource =>
  ({ kind, ...defaultsOf(MAP_SOURCES[kind].table) }) as MapSource;

/** Properties of all sources: what is called the same in two kinds is the same there. */
export const SOURCE: Table = Object.assign({}, ...Object.values(MAP_SOURCES).map(({ table }) => table)) as Table;

/** Footage as it comes when nothing else is said: from the first frame of the shot, over and over. @param footage asset id */
export const newFootage = (footage: string): MapSource =>
  ({ kind: 'footage', footage, ...defaultsOf(MAP_SOURCES.footage.table) }) as MapSource;
