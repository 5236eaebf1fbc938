import type { FaultOf } from '@zippy/core/checks';
import { moveText } from '../moves';
import type { FaultView } from './view';

export const unevenLoop: FaultView<FaultOf<'unevenLoop'>> = {
  desk: 'motion',
  says({ shot, move }, { shots }) {
    const { name, moves } = shots[shot]!;
    return `"${name}" jumps where it loops: "${moves[move]!.name}" makes ${moveText(moves[move]!)}`;
  },
  show({ shot, move }, studio) {
    studio.openShot(shot);
    studio.select('move', move);
  },
};
