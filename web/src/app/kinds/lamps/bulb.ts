import type { LampView } from './view';

export const bulb: LampView = {
  words: 'point sphere lamp practical',
  fields: (own) => [own('radius', 'Radius')],
};
