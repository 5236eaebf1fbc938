import type { PieceView } from './view';

export const box: PieceView = {
  words: 'block cube plinth podium',
  fields: (own) => [own('width', 'Width'), own('height', 'Height'), own('depth', 'Depth'), own('bevel', 'Rounded by')],
};
