import { encodeSrgb } from '../../optics';
import { inColors, type LayerView } from './layer';

const CHANNELS = ['albedo.R', 'albedo.G', 'albedo.B'];

export const albedo: LayerView = {
  title: 'Base colour',
  says: 'The colour of surfaces without any light on them',
  channels: CHANNELS,
  picture: (source) => ({ pixels: inColors(source, CHANNELS, (value) => encodeSrgb(value)), range: null }),
};
