import type { PieceView } from './view';

export const disc: PieceView = {
  words: 'round plate turntable',
  under: true,
  fields: (own) => [own('radius', 'Radius'), own('hole', 'Hole')],
};
