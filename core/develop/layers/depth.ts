import { inGrey, rangeOf, type LayerView } from './layer';

/** Near is white. What the ray met nothing of is black. */
export const depth: LayerView = {
  title: 'Depth',
  says: 'How far away along the line of sight: near is white',
  channels: ['Z'],
  picture(source) {
    const { low, high } = rangeOf(source.channel('Z')!, source.channel('A'));
    const span = Math.max(1e-9, high - low);
    const pixels = inGrey(source, 'Z', (z) => (z <= 0 || !(z < 1e9) ? 0 : 1 - Math.min(1, (z - low) / span) * 0.96));
    return { pixels, range: { low, high, unit: 'mm' } };
  },
};
