import { defaultsOf, FINISH, MAP } from './properties';
import type { FinishMap, MapSlot } from './schema';

/** Whether the pictures of a slot hold colours. */
export const isColorSlot = (slot: MapSlot): boolean => slot !== 'normal' && FINISH[slot].kind === 'color';

/** A picture as it comes in one slot when nothing else is said: colours coded, numbers plain. */
export function newMap(slot: MapSlot, picture: string, over: Partial<FinishMap> = {}): FinishMap {
  return {
    source: { kind: 'picture', picture },
    ...defaultsOf(MAP),
    coding: isColorSlot(slot) ? 'srgb' : 'linear',
    ...over,
  };
}

/** Rows of the matrix from the surface's coordinates to the picture's: repeated, then turned, then moved (KHR_texture_transform). */
export function mapMatrix({
  repeatU,
  repeatV,
  turn,
  offsetU,
  offsetV,
}: FinishMap): [number, number, number, number, number, number] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [c * repeatU, s * repeatV, offsetU, -s * repeatU, c * repeatV, offsetV];
}
