import type { MoveOf, MoveView } from './view';

const tidy = (length: number): number => Number(length.toPrecision(2));

export const travel: MoveView<MoveOf<'travel'>> = {
  family: 'place',
  needs: 'Select a part, camera or light',
  starts: [
    {
      title: 'Travel',
      does: 'From one place to another; selected, its ends are dragged in the picture',
      words: 'slide move fly push pull glide',
      drawing: 'M3 13 30 3m-6-1 6 1-3 5',
    },
    {
      title: 'Rise',
      does: 'Comes up from below to where it stands',
      words: 'lift appear reveal up',
      drawing: 'M17 15V2m-4 4 4-4 4 4M8 15h18',
      numbers: (_move, { size }) => ({ from: [0, -tidy(size), 0], to: [0, 0, 0], pace: 'ease-out' }),
    },
    {
      title: 'Drop',
      does: 'Falls to where it stands, and bounces',
      words: 'fall land bounce down',
      drawing: 'M4 2c4 0 5 5 6 11 1-6 7-6 8 0 1-3 4-3 5 0h7',
      numbers: (_move, { size }) => ({
        from: [0, tidy(size), 0],
        to: [0, 0, 0],
        pace: { bounce: { count: 3, height: 0.2 } },
      }),
    },
    {
      title: 'Cross',
      does: 'Past where it stands, from one side to the other',
      words: 'pass by side truck slide',
      drawing: 'M3 8h28m-5-4 5 4-5 4M17 3v10',
      numbers: (_move, { size }) => ({ from: [-tidy(size), 0, 0], to: [tidy(size), 0, 0], pace: 'linear' }),
    },
  ],
  fields: ({ own }) => [own('from', 'From'), own('to', 'To'), own('carryTarget', 'Aim along')],
  says: ({ from, to }) => `${Math.round(Math.hypot(...to.map((v, k) => v - from[k]!)))} mm`,
};
