import { inGrey, rangeOf, type LayerView } from './layer';

export const noise: LayerView = {
  title: 'Noise',
  says: 'How sure the light of a pixel is, against how bright it is: dark is sure',
  channels: ['noise.Y', 'R', 'G', 'B'],
  picture(source) {
    const plane = source.channel('noise.Y')!;
    const [r, g, b] = ['R', 'G', 'B'].map((name) => source.channel(name)!) as Float32Array[];
    const share = Float32Array.from(plane, (value, k) => value / Math.max(1e-4, 0.2126 * r![k]! + 0.7152 * g![k]! + 0.0722 * b![k]!)); // prettier-ignore
    const { low, high } = rangeOf(share, undefined);
    const told = Math.min(high, 0.5);
    return {
      pixels: inGrey({ ...source, channel: () => share }, 'noise.Y', (value) =>
        Math.min(1, value / Math.max(1e-6, told)),
      ),
      range: { low: Math.min(low, told) * 100, high: told * 100, unit: '%' },
    };
  },
};
