import { field } from '../field';
import type { SourceView } from './view';

export const partRandom: SourceView = {
  label: 'Random by part',
  words: 'variation different each part id',
  hint: 'One value for each part that wears the finish.',
  laid: false,
  fields: (at) => [field(`${at}/seed`, 'Variation')],
};
