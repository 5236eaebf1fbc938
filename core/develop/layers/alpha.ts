import { inGrey, type LayerView } from './layer';

export const alpha: LayerView = {
  title: 'Coverage',
  says: 'Where there is something: white; where what is behind stays open: black',
  channels: ['A'],
  picture: (source) => ({ pixels: inGrey(source, 'A', (value) => value), range: null }),
};
