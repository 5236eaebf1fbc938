import { aboutFields } from './about';
import type { MoveOf, MoveView } from './view';

const degrees = (angle: number): number => Math.round((angle * 180) / Math.PI);

export const hinge: MoveView<MoveOf<'hinge'>> = {
  family: 'turn',
  needs: 'Select a part or group',
  starts: [
    {
      title: 'Open',
      does: 'Turns about its turning point and axis, like a lid or a door',
      words: 'hinge lid door flap unfold',
      drawing: 'M4 13h26M4 13 24 3m-4 0 4 0 0 4',
    },
    {
      title: 'Close',
      does: 'From open to where it stands',
      words: 'hinge lid door flap shut fold',
      drawing: 'M4 13h26M4 13 24 3m2 3 1 5-5 0',
      numbers: ({ from, to }) => ({ from: to, to: from }),
    },
  ],
  fields: (make, move) => [make.own('from', 'From'), make.own('to', 'To'), ...aboutFields(make, move)],
  says: ({ from, to }) => `${degrees(from)}° to ${degrees(to)}°`,
};
