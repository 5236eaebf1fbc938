import type { LampView } from './view';

export const card: LampView = {
  words: 'reflection highlight environment painted patch softbox',
  fields: (own) => [
    own('spanWidth', 'Seen width'),
    own('spanHeight', 'Seen height'),
    own('round', 'Round'),
    own('softEdge', 'Soft edge'),
    own('roll', 'Roll'),
  ],
};
