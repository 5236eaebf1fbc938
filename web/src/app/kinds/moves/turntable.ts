import { choice } from '../field';
import type { MoveOf, MoveView } from './view';

export const turntable: MoveView<MoveOf<'turntable'>> = {
  does: 'Turns a part about its axis, evenly',
  needs: 'Select a part or group',
  words: 'spin rotate revolve 360',
  drawing: 'M4 8a13 5 0 1 0 13-5c-8 0-13 2-13 5m24-3 3 3 2-4',
  fields: ({ at, own, write }) => [
    own('turns', 'Turns'),
    {
      ...choice(`${at}/direction`, 'Direction', { '1': 'Counter-clockwise', '-1': 'Clockwise' }, ['1', '-1']),
      write: write((move, value) => {
        if (move.kind === 'turntable') move.direction = value === '-1' ? -1 : 1;
      }),
    },
    own('startAngle', 'Start'),
    own('axis', 'Axis'),
  ],
  says: ({ turns }) => `${turns} ${turns === 1 ? 'turn' : 'turns'}`,
};
