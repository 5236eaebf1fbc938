import { followedFields } from './followed';
import type { MoveOf, MoveView } from './view';

export const aimPull: MoveView<MoveOf<'aimPull'>> = {
  family: 'camera',
  needs: 'Select a camera or light',
  starts: [
    {
      title: 'Pan across',
      does: 'What it looks at goes from one thing to another, wherever they are',
      words: 'look at aim turn pan tilt whip target blend',
      drawing: 'M5 8a3 3 0 1 0 0-.100M23 8a4 4 0 1 0 0-.100M11 4c3-3 6-3 9 0m-3 0 3 0 0-3',
    },
  ],
  fields: (make) => followedFields(make, 'What it is aimed at itself'),
  says: ({ to }) => (to ? 'to what it follows' : 'nothing picked yet'),
};
