import type { FinishMap, MapSlot } from './schema';

/** Slots whose pictures hold colours. */
const COLOR_SLOTS: readonly MapSlot[] = [
  'baseColor',
  'specularColor',
  'transmissionColor',
  'subsurfaceColor',
  'coatColor',
  'fuzzColor',
  'emissionColor',
];

export const isColorSlot = (slot: MapSlot): boolean => COLOR_SLOTS.includes(slot);

/** A picture as it comes in one slot when nothing else is said: colours coded, numbers plain. */
export function newMap(slot: MapSlot, picture: string, over: Partial<FinishMap> = {}): FinishMap {
  return {
    picture,
    coding: isColorSlot(slot) ? 'srgb' : 'linear',
    channel: 'red',
    strength: 1,
    repeatU: 1,
    repeatV: 1,
    turn: 0,
    offsetU: 0,
    offsetV: 0,
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
