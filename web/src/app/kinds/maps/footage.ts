import { choice, field } from '../field';
import type { SourceView } from './view';

const AFTER = { again: 'Begins again', toAndFro: 'Runs back', hold: 'Stands still', gone: 'Is gone' };

export const footage: SourceView = {
  label: 'Footage',
  words: 'video clip film movie animation screen',
  hint: 'A film or a row of pictures, laid on the surface.',
  laid: true,
  fields: (at, document) => {
    const clips = Object.values(document.assets).filter(({ kind }) => kind === 'footage');
    return [
      choice(`${at}/footage`, 'Footage', Object.fromEntries(clips.map(({ id, name }) => [id, name]))),
      field(`${at}/start`, 'From frame'),
      field(`${at}/from`, 'Begins at'),
      field(`${at}/speed`, 'Speed'),
      choice(`${at}/after`, 'At its end', AFTER),
    ];
  },
};
