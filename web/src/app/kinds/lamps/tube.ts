import type { LampView } from './view';

export const tube: LampView = {
  words: 'strip rim edge neon line',
  fields: (own) => [own('width', 'Length'), own('radius', 'Radius'), own('roll', 'Roll')],
};
