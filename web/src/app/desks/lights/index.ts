import type { DeskEntry } from '../desk';

export const lights: DeskEntry = {
  name: 'Lights',
  icon: 'lamp',
  load: async () => (await import('./lights-desk.component')).LightsDeskComponent,
};
