import type { PieceView } from './view';

export const sphere: PieceView = {
  words: 'ball orb',
  fields: (own) => [own('radius', 'Radius')],
};
