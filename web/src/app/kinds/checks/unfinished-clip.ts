import type { FaultOf } from '@zippy/core/checks';
import type { FaultView } from './view';

export const unfinishedClip: FaultView<FaultOf<'unfinishedClip'>> = {
  desk: 'reel',
  says: ({ take }) => (take === null ? 'A take on the reel is gone' : `Take ${take} on the reel is not finished`),
  show({ clip }, studio) {
    studio.openDesk('reel');
    studio.select('clip', clip);
  },
};
