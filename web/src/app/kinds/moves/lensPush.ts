import type { MoveOf, MoveView } from './view';

export const lensPush: MoveView<MoveOf<'lensPush'>> = {
  family: 'camera',
  needs: 'Select a camera',
  starts: [
    {
      title: 'Lens push',
      does: 'From one focal length to another',
      words: 'zoom focal length closer tele wide',
      drawing: 'M3 3l10 5-10 5M31 1 17 8l14 7',
    },
    {
      title: 'Dolly zoom',
      does: 'The lens goes one way and the camera the other: the product stays as large, what is behind it does not',
      words: 'counter zoom vertigo focal length background size kept',
      drawing: 'M3 3l10 5-10 5M31 1 17 8l14 7M15 4v8',
      numbers: () => ({ keepSize: true }),
    },
  ],
  fields: ({ own }) => [own('from', 'From'), own('to', 'To'), own('keepSize', 'Size kept')],
  says: ({ from, to }) => `${Math.round(from)} to ${Math.round(to)} mm`,
};
