import { choice } from '../field';
import { aboutFields } from './about';
import type { MoveOf, MoveView } from './view';

export const turntable: MoveView<MoveOf<'turntable'>> = {
  family: 'turn',
  needs: 'Select a part or group',
  starts: [
    {
      title: 'Turntable',
      does: 'Turns about an axis, evenly: all the way round and into itself',
      words: 'spin rotate revolve 360',
      drawing: 'M4 8a13 5 0 1 0 13-5c-8 0-13 2-13 5m24-3 3 3 2-4',
    },
    {
      title: 'Sway',
      does: 'Turns a little one way and back',
      words: 'swing rock pendulum turn back',
      drawing: 'M4 5c4 8 22 8 26 0m-3 0 3 0 0 4M7 5 4 5v4',
      numbers: () => ({ turns: 1 / 12, mirrored: true, pace: 'ease' }),
    },
  ],
  fields: ({ at, own, write }, move) => [
    own('turns', 'Turns'),
    {
      ...choice(`${at}/direction`, 'Direction', { '1': 'Counter-clockwise', '-1': 'Clockwise' }, ['1', '-1']),
      write: write((move, value) => {
        if (move.kind === 'turntable') move.direction = value === '-1' ? -1 : 1;
      }),
    },
    own('startAngle', 'Start'),
    ...aboutFields({ at, own, write }, move),
  ],
  says: ({ turns }) => `${turns} ${turns === 1 ? 'turn' : 'turns'}`,
};
