import { inColors, type LayerView } from './layer';

const CHANNELS = ['normal.X', 'normal.Y', 'normal.Z'];

export const normal: LayerView = {
  title: 'Normals',
  says: 'Which way a surface faces in the world: x is red, y green, z blue',
  channels: CHANNELS,
  picture: (source) => ({ pixels: inColors(source, CHANNELS, (value) => value / 2 + 0.5), range: null }),
};
