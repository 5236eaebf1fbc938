import type { Change } from './change';

export const fade: Change = {
  title: 'Cross-fade',
  overlaps: true,
  colored: false,
  mask: (at) => ({ kind: 'even', share: at }),
};
