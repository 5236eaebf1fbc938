import { newFootage, newSource, type MadeSourceKind, type MapSource } from '../optics/maps';
import { defaultsOf, FINISH, MAP } from './properties';
import type { Asset, Finish, FinishMap, MapSlot } from './schema';

/** Whether the values of a slot are colours. */
export const isColorSlot = (slot: MapSlot): boolean =>
  slot !== 'normal' && slot !== 'height' && FINISH[slot].kind === 'color';

const layer = (slot: MapSlot, source: MapSource, over: Partial<FinishMap>): FinishMap => ({
  slot,
  order: 0,
  source,
  ...defaultsOf(MAP),
  // What rises from nothing can only be added, and a whole millimetre would be a mountain.
  ...(slot === 'height' ? { blend: 'add' as const, high: 0.2 } : {}),
  shades: null,
  ...over,
});

/** A picture as it comes in one slot when nothing else is said: colours coded, numbers plain. */
export const newMap = (slot: MapSlot, picture: string, over: Partial<FinishMap> = {}): FinishMap =>
  layer(slot, { kind: 'picture', picture }, { coding: isColorSlot(slot) ? 'srgb' : 'linear', ...over });

/** A picture or footage of the project as it comes in one slot when nothing else is said. */
export const newPictureMap = (
  slot: MapSlot,
  { id, kind, sourceName }: Pick<Asset, 'id' | 'kind' | 'sourceName'>,
): FinishMap =>
  newMap(slot, id, {
    ...(kind === 'footage' ? { source: newFootage(id) } : {}),
    // What these files hold is light, or plain numbers.
    ...(/\.(exr|hdr)$/i.test(sourceName) ? { coding: 'linear' as const } : {}),
  });

/** A map that needs no picture as it comes when nothing else is said: it goes through the part, wherever its coordinates lie. */
export const madeMap = (slot: MapSlot, kind: MadeSourceKind, over: Partial<FinishMap> = {}): FinishMap =>
  layer(slot, newSource(kind), { projection: 'through', ...over });

/** The layers of one slot with their ids, from the lowest. */
export function layersOf({ maps }: Pick<Finish, 'maps'>, slot: MapSlot): [string, FinishMap][] {
  return Object.entries(maps)
    .filter(([, map]) => map.slot === slot)
    .sort(([, a], [, b]) => a.order - b.order);
}

/** The lowest layer of a slot: what stands for all where only one picture is known. */
export const lowestLayer = (finish: Pick<Finish, 'maps'>, slot: MapSlot): FinishMap | undefined =>
  layersOf(finish, slot)[0]?.[1];

/** Rows of the matrix from the surface's coordinates to the picture's: repeated, then turned, then moved (KHR_texture_transform). */
export function mapMatrix({
  repeatU,
  repeatV,
  turn,
  offsetU,
  offsetV,
}: Pick<FinishMap, 'repeatU' | 'repeatV' | 'turn' | 'offsetU' | 'offsetV'>): [
  number,
  number,
  number,
  number,
  number,
  number,
] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [c * repeatU, s * repeatV, offsetU, -s * repeatU, c * repeatV, offsetV];
}
