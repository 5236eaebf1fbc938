import type { Change } from './change';

export const cut: Change = { title: 'Cut', overlaps: false, colored: false, mask: null };
