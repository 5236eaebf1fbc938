import type { MoveOf, MoveView } from './view';

export const blink: MoveView<MoveOf<'blink'>> = {
  family: 'light',
  needs: 'Select a light, finish or part',
  starts: [
    {
      title: 'Blink',
      does: 'On and off, as often as you say',
      words: 'flash pulse indicator',
      drawing: 'M3 13h5V3h5v10h5V3h5v10h5V3h4',
    },
    {
      title: 'Breathe',
      does: 'Swells and fades again and again',
      words: 'pulse glow standby soft',
      drawing: 'M2 13c4 0 4-10 7.500-10s3.500 10 7.500 10 4-10 7.500-10 3.500 10 7.500 10',
      numbers: () => ({ duty: 1, softness: 1 }),
    },
  ],
  fields: ({ own }) => [
    own('count', 'Times'),
    own('low', 'Low'),
    own('high', 'High'),
    own('duty', 'On part'),
    own('softness', 'Softness'),
  ],
  says: ({ count }) => `${count} times`,
};
