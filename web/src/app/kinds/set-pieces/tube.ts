import type { PieceView } from './view';

export const tube: PieceView = {
  words: 'pipe ring cylinder hollow',
  fields: (own) => [own('radius', 'Radius'), own('wall', 'Wall'), own('height', 'Height')],
};
