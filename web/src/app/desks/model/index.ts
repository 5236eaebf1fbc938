import type { DeskEntry } from '../desk';

export const model: DeskEntry = {
  name: 'Model',
  icon: 'box',
  load: async () => (await import('./model-desk.component')).ModelDeskComponent,
};
