import type { DeskEntry } from '../desk';

export const reel: DeskEntry = {
  name: 'Reel',
  icon: 'film',
  load: async () => (await import('./reel-desk.component')).ReelDeskComponent,
};
