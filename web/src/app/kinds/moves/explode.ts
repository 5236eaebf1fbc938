import type { MoveOf, MoveView } from './view';

export const explode: MoveView<MoveOf<'explode'>> = {
  family: 'place',
  needs: 'Select a group with parts in it',
  starts: [
    {
      title: 'Explode',
      does: 'Takes what is in a group apart, one after the other',
      words: 'assembly apart disassemble exploded view',
      drawing: 'M17 8h.100M13 6 6 3m15 3 7-3M13 10l-7 3m15-3 7 3M17 5V1m0 10v4',
    },
    {
      title: 'Gather',
      does: 'Brings what is in a group together',
      words: 'assemble build together implode',
      drawing: 'M6 3l7 3m15-3-7 3M6 13l7-3m15 3-7-3M17 1v4m0 10v-4',
      numbers: () => ({ gathers: true }),
    },
  ],
  fields: ({ own }) => [own('distance', 'Distance'), own('stagger', 'One by one'), own('gathers', 'Gathers')],
  says: ({ ways, gathers }) => `${ways.length} ${gathers ? 'together' : 'apart'}`,
};
