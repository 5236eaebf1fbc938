import type { DeskEntry } from '../desk';

export const camera: DeskEntry = {
  name: 'Camera',
  icon: 'camera',
  load: async () => (await import('./camera-desk.component')).CameraDeskComponent,
};
