import { developLight } from './light';
import type { LayerView } from './layer';

const CHANNELS = ['emission.R', 'emission.G', 'emission.B'];

export const emission: LayerView = {
  title: 'Emission',
  says: 'What shines by itself, as the look shows it',
  channels: CHANNELS,
  picture: (source) => ({ pixels: developLight(source, CHANNELS), range: null }),
};
