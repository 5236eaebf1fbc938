import { aboutFields } from './about';
import type { MoveOf, MoveView } from './view';

export const tick: MoveView<MoveOf<'tick'>> = {
  family: 'turn',
  needs: 'Select a part or group',
  starts: [
    {
      title: 'Tick',
      does: 'Turns step by step, like the hand of a clock or a dial with catches',
      words: 'clock second hand step detent dial ratchet',
      drawing: 'M17 2v3m0 6v3M4 8h4m18 0h4M17 8l6-4',
    },
  ],
  fields: (make, move) => [
    make.own('angle', 'Of a step'),
    make.own('every', 'A step every'),
    make.own('moving', 'Moving part'),
    make.own('swing', 'Swing'),
    ...aboutFields(make, move),
  ],
  says: ({ angle, every }) =>
    `${Math.round((angle * 1800) / Math.PI) / 10}° every ${Math.round(every * 10) / 10} frames`,
};
