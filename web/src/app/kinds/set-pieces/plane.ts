import type { PieceView } from './view';

export const plane: PieceView = {
  words: 'sheet floor card',
  under: true,
  fields: (own) => [own('width', 'Width'), own('depth', 'Depth')],
};
