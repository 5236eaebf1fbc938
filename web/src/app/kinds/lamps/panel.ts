import type { LampView } from './view';

export const panel: LampView = {
  words: 'key light softbox area rectangle window',
  fields: (own) => [
    own('width', 'Width'),
    own('height', 'Height'),
    own('gradient', 'Darker edge'),
    own('softEdge', 'Soft edge'),
    own('roll', 'Roll'),
  ],
};
