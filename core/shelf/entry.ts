import { madeMap, type Finish, type FinishMap, type MapSlot } from '../document';
import { linearFromHex, type MadeSourceKind, type MapSource } from '../optics';

/** A finish to start from. Its name tells it from all others of the shelf. */
export type ShelfFinish = Partial<Finish> & { name: string };

export type Color = [number, number, number];

export const hex = (code: string): Color => linearFromHex(code)!;
export const grey = (v: number): Color => [v, v, v];

type Told<K extends MadeSourceKind> = Partial<Omit<Extract<MapSource, { kind: K }>, 'kind'>>;

/** A layer of a map that needs no picture. */
export function made<K extends MadeSourceKind>(
  slot: MapSlot,
  kind: K,
  source: Told<K>,
  over: Partial<FinishMap> = {},
): FinishMap {
  const map = madeMap(slot, kind, over);
  return { ...map, source: { ...map.source, ...source } as MapSource };
}

/** Layers of maps by ids of their own, each over the one before. */
export const maps = (...layers: FinishMap[]): Finish['maps'] =>
  Object.fromEntries(layers.map((layer, order) => [`${layer.slot}-${order}`, { ...layer, order }]));

/** Grain that is felt: bumps of some width and height in mm. */
export const grain = (scale: number, high: number, over: Told<'noise'> = {}): FinishMap =>
  made('height', 'noise', { pattern: 'gradient', scale, octaves: 2, ...over }, { high });
