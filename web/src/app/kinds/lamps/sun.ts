import type { LampView } from './view';

export const sun: LampView = {
  words: 'daylight directional hard',
  fields: (own) => [own('angularSize', 'Seen size')],
};
