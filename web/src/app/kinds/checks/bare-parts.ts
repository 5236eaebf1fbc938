import type { FaultOf } from '@zippy/core/checks';
import { many } from '../../ui/many';
import type { FaultView } from './view';

export const bareParts: FaultView<FaultOf<'bareParts'>> = {
  desk: 'finish',
  says: ({ nodes }) => `${many(nodes.length, 'part')} ${nodes.length === 1 ? 'has' : 'have'} no finish`,
  show: ({ nodes }, studio) => {
    studio.openDesk('finish');
    studio.selectAll(nodes.map((id) => ({ kind: 'node', id })));
  },
};
