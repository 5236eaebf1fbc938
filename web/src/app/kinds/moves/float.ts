import type { MoveOf, MoveView } from './view';

export const float: MoveView<MoveOf<'float'>> = {
  family: 'place',
  needs: 'Select a part, camera or light',
  starts: [
    {
      title: 'Float',
      does: 'Hovers up and down and leans a little, without end',
      words: 'hover levitate bob drift weightless',
      drawing: 'M3 10c4-8 8-8 12 0s8 8 16-2',
    },
  ],
  fields: ({ own }) => [
    own('height', 'Height'),
    own('lean', 'Leans by'),
    own('period', 'Up and down in'),
    own('axis', 'Along'),
    own('seed', 'Variation'),
  ],
  says: ({ height }) => `${Math.round(height * 10) / 10} mm`,
};
