import { inGrey, type LayerView } from './layer';

export const shadow: LayerView = {
  title: 'Shadow',
  says: 'How much of the lamps’ light something stands in the way of',
  channels: ['shadow.Y'],
  picture: (source) => ({ pixels: inGrey(source, 'shadow.Y', (value) => value), range: null }),
};
