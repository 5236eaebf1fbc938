import type { LayerView } from './layer';
import { matteColors } from './mattes';

export const parts: LayerView = {
  title: 'Parts',
  says: 'Every part in a colour of its own; click some for a matte of them',
  channels: ['crypto_part00.R'],
  picture: (source) => ({ pixels: matteColors(source, 'crypto_part'), range: null }),
};
