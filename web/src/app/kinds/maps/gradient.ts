import { choice } from '../field';
import type { SourceView } from './view';

const SHAPES = { linear: 'Along', radial: 'From the middle', spherical: 'From a point', angular: 'Once round' };

export const gradient: SourceView = {
  label: 'Gradient',
  words: 'fade blend colours',
  hint: 'From dark to bright, along, from the middle or round.',
  laid: true,
  fields: (at) => [choice(`${at}/shape`, 'Runs', SHAPES)],
};
