import type { PieceOf, PieceView } from './view';
import { choice } from '../field';

export const frame: PieceView<PieceOf<'frame'>> = {
  words: 'border ring opening arch',
  fields: (own, { section }) => [
    own('width', 'Width'),
    own('height', 'Height'),
    own('bar', 'Bar'),
    ...(section === 'rectangular' ? [own('depth', 'Depth')] : []),
    {
      ...own('section', 'Section'),
      ...choice('', 'Section', { rectangular: 'Rectangular', round: 'Round' }),
      path: own('section', '').path,
    },
  ],
};
