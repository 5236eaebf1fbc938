import type { DeskEntry } from '../desk';

export const set: DeskEntry = {
  name: 'Set',
  icon: 'set',
  load: async () => (await import('./set-desk.component')).SetDeskComponent,
};
