import type { FaultOf } from '@zippy/core/checks';
import type { FaultView } from './view';

export const lateMove: FaultView<FaultOf<'lateMove'>> = {
  desk: 'motion',
  says({ shot, move }, { shots }) {
    const { name, moves } = shots[shot]!;
    return `"${moves[move]!.name}" begins after the end of "${name}"`;
  },
  show({ shot, move }, studio) {
    studio.openShot(shot);
    studio.select('move', move);
  },
};
