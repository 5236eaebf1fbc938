import type { DeskEntry } from '../desk';

export const render: DeskEntry = {
  name: 'Render',
  icon: 'aperture',
  load: async () => (await import('./render-desk.component')).RenderDeskComponent,
};
