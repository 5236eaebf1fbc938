import type { LayerView } from './layer';
import { matteColors } from './mattes';

export const finishes: LayerView = {
  title: 'Finishes',
  says: 'Every finish in a colour of its own; click some for a matte of them',
  channels: ['crypto_finish00.R'],
  picture: (source) => ({ pixels: matteColors(source, 'crypto_finish'), range: null }),
};
