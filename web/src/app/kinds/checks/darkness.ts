import type { FaultOf } from '@zippy/core/checks';
import type { FaultView } from './view';

export const darkness: FaultView<FaultOf<'darkness'>> = {
  desk: 'lights',
  says: () => 'Nothing gives light',
  show: (_fault, studio) => studio.openDesk('lights'),
};
