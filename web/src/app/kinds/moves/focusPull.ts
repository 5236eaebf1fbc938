import { followedFields } from './followed';
import type { MoveOf, MoveView } from './view';

export const focusPull: MoveView<MoveOf<'focusPull'>> = {
  family: 'camera',
  needs: 'Select a camera',
  starts: [
    {
      title: 'Focus pull',
      does: 'What is sharp goes from one thing to another, wherever they are',
      words: 'rack focus sharp depth of field',
      drawing: 'M5 8a3 3 0 1 0 0-.100M23 8a4 4 0 1 0 0-.100M12 8h7m-3-3 3 3-3 3',
    },
  ],
  fields: (make) => followedFields(make, 'What it is sharp at itself'),
  says: ({ to }) => (to ? 'to what it follows' : 'nothing picked yet'),
};
