import type { MoveOf, MoveView } from './view';

export const blink: MoveView<MoveOf<'blink'>> = {
  does: 'On and off, as often as you say',
  needs: 'Select a light, finish or part',
  words: 'flash pulse flicker',
  drawing: 'M3 13h5V3h5v10h5V3h5v10h5V3h4',
  fields: ({ own }) => [
    own('count', 'Times'),
    own('low', 'Low'),
    own('high', 'High'),
    own('duty', 'On part'),
    own('softness', 'Softness'),
  ],
  says: ({ count }) => `${count} times`,
};
