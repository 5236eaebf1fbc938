import type { Finish, FinishMap, MapSlot } from '../../document';

/** Parameters of a finish whose layers a MaterialX file of ours cannot hold: patterns, further layers, what lies on by other ways. */
export function leftOutOfMaterialX(finish: Finish): MapSlot[] {
  const slots = new Set(Object.values(finish.maps).map(({ slot }) => slot));
  return [...slots].filter((slot) => {
    const layers = Object.values(finish.maps).filter((map) => map.slot === slot && !map.muted);
    const [only] = layers;
    if (!only) return false;
    return slot === 'height' || layers.length > 1 || !isWritten(only);
  });
}

/** A picture that lies by the model's coordinates, and multiplies. */
export const isWritten = (map: FinishMap): boolean =>
  map.source.kind === 'picture' && map.projection === 'coordinates' && map.turn === 0 && map.blend === 'multiply';
