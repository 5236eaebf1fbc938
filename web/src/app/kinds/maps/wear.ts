import { choice, field } from '../field';
import type { SourceView } from './view';

const WHERE = { edges: 'Edges', hollows: 'Hollows', both: 'Both' };

export const wear: SourceView = {
  label: 'Wear',
  title: (source) => (source.kind === 'wear' ? `Wear: ${WHERE[source.along].toLowerCase()}` : 'Wear'),
  words: 'edges scratches worn used rubbed hollows dirt grime curvature',
  hint: 'Edges that are rubbed, or hollows where dirt gathers. Seen once the picture is traced.',
  laid: false,
  fields: (at) => [
    choice(`${at}/along`, 'Along', WHERE),
    field(`${at}/width`, 'Width'),
    field(`${at}/breakup`, 'Broken up'),
    field(`${at}/grain`, 'Size of bites'),
    field(`${at}/seed`, 'Variation'),
  ],
};
