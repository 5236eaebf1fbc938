import type { Change } from './change';

/** The clip before goes to a colour, and the next one comes out of it. */
export const dip: Change = { title: 'Dip to colour', overlaps: false, colored: true, mask: null };
