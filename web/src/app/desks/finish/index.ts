import type { DeskEntry } from '../desk';

export const finish: DeskEntry = {
  name: 'Finish',
  icon: 'finish',
  load: async () => (await import('./finish-desk.component')).FinishDeskComponent,
};
