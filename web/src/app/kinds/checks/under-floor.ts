import type { FaultOf } from '@zippy/core/checks';
import type { FaultView } from './view';

export const underFloor: FaultView<FaultOf<'underFloor'>> = {
  desk: 'camera',
  says: ({ shot, frame }, { shots }) =>
    `The camera of "${shots[shot]!.name}" is below the floor from frame ${frame} on`,
  show: ({ shot, frame }, studio) => studio.openShot(shot, frame),
};
