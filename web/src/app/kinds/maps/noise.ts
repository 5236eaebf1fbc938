import { choice, field } from '../field';
import type { SourceView } from './view';

const PATTERNS = { value: 'Soft', gradient: 'Billowing', cells: 'Cells', cracks: 'Cracks', flakes: 'Flakes' };

export const noise: SourceView = {
  label: 'Noise',
  title: (source) => (source.kind === 'noise' ? `Noise: ${PATTERNS[source.pattern].toLowerCase()}` : 'Noise'),
  words: 'grain random clouds speckle cells flakes procedural',
  hint: 'Grain without end: clouds, cells, cracks or flakes.',
  laid: true,
  fields: (at) => [
    choice(`${at}/pattern`, 'Pattern', PATTERNS),
    field(`${at}/scale`, 'Scale'),
    field(`${at}/stretch`, 'Stretched'),
    field(`${at}/octaves`, 'Layers of grain'),
    field(`${at}/fineness`, 'Fine grain'),
    field(`${at}/seed`, 'Variation'),
  ],
};
