import type { PieceView } from './view';

export const cylinder: PieceView = {
  words: 'plinth podium round pedestal',
  fields: (own) => [own('radius', 'Radius'), own('height', 'Height'), own('bevel', 'Rounded by')],
};
