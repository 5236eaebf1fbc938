import { choice } from '../field';
import type { SourceView } from './view';

export const picture: SourceView = {
  label: 'Picture',
  words: 'image texture photo file print',
  hint: 'A picture file, laid on the surface.',
  laid: true,
  fields: (at, document) => {
    const pictures = Object.values(document.assets).filter(({ kind }) => kind === 'picture');
    return [choice(`${at}/picture`, 'Picture', Object.fromEntries(pictures.map(({ id, name }) => [id, name])))];
  },
};
