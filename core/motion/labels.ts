import {
  isColorSlot,
  layersOf,
  MAP_SLOTS,
  newFinish,
  newMap,
  type Finish,
  type FinishMap,
  type Label,
  type MapSlot,
} from '../document';
import { quaternionFromTurn, rotateVector } from '../geometry';

/** Above all layers that a finish has of its own. */
const OVER_ALL = 1e6;

/** Finishes with labels that have been made, by what they were made of: frames on which nothing of it moves share them. */
const made = new WeakMap<Finish, Map<string, { of: readonly (Finish | null)[]; finish: Finish }>>();
/** Of one finish; labels that move make new ones on every frame. */
const KEPT = 64;
const NO_FINISH = newFinish({ id: 'none', name: 'No finish' });

/**
 * What a part wears with its labels on it: the finish, over which every label lays what it is made of wherever its picture is.
 * @param finish of the part; null where it has none @param node its id
 * @param finishes of which the labels' own are found
 */
export function labelled(
  finish: Finish | null,
  node: string,
  labels: Readonly<Record<string, Label>>,
  finishes: Readonly<Record<string, Finish>>,
): Finish {
  const base = finish ?? NO_FINISH;
  const own = Object.values(labels).map((label) => (label.finish ? (finishes[label.finish] ?? null) : null));
  const byLabels = made.get(base) ?? new Map<string, { of: readonly (Finish | null)[]; finish: Finish }>();
  made.set(base, byLabels);
  // A part that moves is another object on every frame, with the same labels.
  const key = `${node}/${JSON.stringify(labels)}`;
  const known = byLabels.get(key);
  if (known && known.of.every((each, k) => each === own[k])) return known.finish;
  const result: Finish = { ...base, id: `${base.id}~${node}`, maps: { ...base.maps } };
  const inOrder = Object.entries(labels)
    .filter(([, { visible, opacity }]) => visible && opacity > 0)
    .sort(([, a], [, b]) => a.order - b.order);
  inOrder.forEach(([id, label], k) => {
    const worn = label.finish ? (finishes[label.finish] ?? null) : null;
    for (const [slot, layer] of layersOfLabel(result, label, worn))
      result.maps[`${id}~${slot}`] = { ...layer, order: OVER_ALL + k };
  });
  if (byLabels.size >= KEPT) byLabels.clear();
  byLabels.set(key, { of: own, finish: result });
  return result;
}

/** Layers by which a label comes over a finish; the finish is made to shine where only the label does. */
function layersOfLabel(base: Finish, label: Label, worn: Finish | null): [MapSlot, FinishMap][] {
  const layers: [MapSlot, FinishMap][] = [];
  const lay = (slot: MapSlot, over: Partial<FinishMap>) => layers.push([slot, laid(slot, label, over)]);
  const plain = (color: readonly number[]): Partial<FinishMap> => ({
    shades: [0, 1].map((at) => ({ at, color: [...color] as [number, number, number] })),
  });
  if (!label.recolored) lay('baseColor', { coding: 'srgb' });
  if (worn) {
    for (const slot of MAP_SLOTS) {
      if (slot === 'normal' || slot === 'height' || slot === 'emissionColor') continue;
      if (slot === 'baseColor' && !label.recolored) continue;
      const same = JSON.stringify(base[slot]) === JSON.stringify(worn[slot]) && layersOf(base, slot).length === 0;
      if (same) continue;
      if (isColorSlot(slot)) lay(slot, plain(worn[slot as 'baseColor']));
      else {
        const value = worn[slot as 'coatWeight'] / (slot === 'specularRotation' ? 2 * Math.PI : 1);
        lay(slot, { low: value, high: value, channel: 'brightness' });
      }
    }
    if (worn.emissionPower > 0 && base.emissionPower === 0) {
      const { emissionPower, emissionUnit, emissionKelvin, emissionColor } = worn;
      Object.assign(base, { emissionPower, emissionUnit, emissionKelvin, emissionColor });
      // Dark everywhere else: what faces nowhere in particular is laid over all of the part.
      base.maps[`${label.picture}~dark`] = {
        ...laid('emissionColor', label, plain([0, 0, 0])),
        source: { kind: 'facing' },
        strength: 1,
        order: OVER_ALL - 1,
      };
      lay('emissionColor', label.recolored ? plain([1, 1, 1]) : { coding: 'srgb' });
    }
  }
  if (label.raised !== 0) lay('height', { blend: 'add', low: label.raised, high: label.raised, channel: 'brightness' });
  return layers;
}

function laid(slot: MapSlot, label: Label, over: Partial<FinishMap>): FinishMap {
  const { turn, width, height, depth, wrap, radius, sides, opacity } = label;
  const behind = rotateVector([0, 0, wrap === 'round' ? -radius : 0], quaternionFromTurn(turn));
  const position = label.position.map((v, k) => v + behind[k]!) as [number, number, number];
  return newMap(slot, label.picture, {
    coding: 'srgb',
    blend: 'over',
    strength: opacity,
    projection: wrap === 'flat' ? 'planar' : 'wrapped',
    tiling: 'once',
    sides,
    position,
    orientation: turn,
    size: [width, height, depth],
    ...over,
  });
}
