import type { LampView } from './view';

export const disc: LampView = {
  words: 'round area beauty dish',
  fields: (own) => [own('radius', 'Radius'), own('gradient', 'Darker edge'), own('softEdge', 'Soft edge')],
};
