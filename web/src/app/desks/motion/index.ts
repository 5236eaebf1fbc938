import type { DeskEntry } from '../desk';

export const motion: DeskEntry = {
  name: 'Motion',
  icon: 'motion',
  load: async () => (await import('./motion-desk.component')).MotionDeskComponent,
};
