import type { PieceOf, PieceView } from './view';
import { choice } from '../field';

export const opening: PieceView<PieceOf<'opening'>> = {
  words: 'hole hatch shaft pit well cut',
  under: true,
  fields: (own, { shape }) => [
    own('width', shape === 'round' ? 'Across' : 'Width'),
    own('length', 'Length'),
    own('depth', 'Depth'),
    {
      ...own('shape', 'Shape'),
      ...choice('', 'Shape', { rectangular: 'Rectangular', round: 'Round' }),
      path: own('shape', '').path,
    },
  ],
};
