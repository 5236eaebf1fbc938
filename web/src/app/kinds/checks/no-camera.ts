import type { FaultOf } from '@zippy/core/checks';
import type { FaultView } from './view';

export const noCamera: FaultView<FaultOf<'noCamera'>> = {
  desk: 'camera',
  says: ({ shot }, { shots }) => `"${shots[shot]!.name}" has no camera`,
  show: ({ shot }, studio) => studio.openShot(shot),
};
