import type { MoveOf, MoveView } from './view';

export const route: MoveView<MoveOf<'route'>> = {
  family: 'camera',
  needs: 'Select a camera',
  starts: [
    {
      title: 'Route',
      does: 'Through viewpoints that you keep one after the other, each with its lens',
      words: 'path viewpoints waypoints fly through spline stations',
      drawing: 'M3 12c6-14 10 6 16-2s6-6 12-6M3 12h.100M19 10h.100M31 4h.100',
    },
  ],
  fields: ({ own }) => [own('smooth', 'Curved'), own('even', 'Even speed'), own('closed', 'Back to start')],
  says: ({ stations }) => `${stations.length} ${stations.length === 1 ? 'viewpoint' : 'viewpoints'}`,
};
