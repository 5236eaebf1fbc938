import { inGrey, type LayerView } from './layer';

export const occlusion: LayerView = {
  title: 'Openness',
  says: 'How open a surface lies: corners and joints are dark',
  channels: ['occlusion.Y'],
  picture: (source) => ({ pixels: inGrey(source, 'occlusion.Y', (value) => value), range: null }),
};
