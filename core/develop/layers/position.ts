import { inColors, rangeOf, type LayerView } from './layer';

const CHANNELS = ['position.X', 'position.Y', 'position.Z'];

export const position: LayerView = {
  title: 'Places',
  says: 'Where in the world a surface is: each axis from its least to its largest value',
  channels: CHANNELS,
  picture(source) {
    const ranges = CHANNELS.map((name) => rangeOf(source.channel(name)!, source.channel('A')));
    const pixels = inColors(source, CHANNELS, (value, k) => {
      const { low, high } = ranges[k]!;
      return (value - low) / Math.max(1e-9, high - low);
    });
    return { pixels, range: null };
  },
};
