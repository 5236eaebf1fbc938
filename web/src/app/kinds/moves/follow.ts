import { inOrder } from '@zippy/core/document';
import type { MoveOf, MoveView } from './view';

export const follow: MoveView<MoveOf<'follow'>> = {
  family: 'place',
  needs: 'Select a part, camera or light',
  starts: [
    {
      title: 'Follow',
      does: 'Goes where another part goes, later and smoother if you like',
      words: 'track lag trail attach chase',
      drawing: 'M4 12a3 3 0 1 0 0-.100M24 5a3 3 0 1 0 0-.100M10 11l9-4m-3-1 3 1-2 3',
    },
  ],
  fields: ({ document, at, own, write }, { target }) => [
    {
      path: `${at}/leader`,
      label: 'Follows',
      kind: 'choice',
      still: true,
      options: [
        { value: '', label: 'Nothing yet' },
        ...inOrder(document.nodes)
          .filter(({ id }) => target !== `nodes/${id}`)
          .map(({ id, name }) => ({ value: id, label: name })),
      ],
      write: write((move, value) => {
        if (move.kind === 'follow') move.leader = value === null || value === '' ? null : String(value);
      }),
    },
    own('delay', 'Late by'),
    own('smoothing', 'Smoothed over'),
    ...(target.startsWith('nodes/') ? [] : [own('carryTarget', 'Aim along')]),
  ],
  says: ({ delay, leader }) => (leader === null ? 'nothing yet' : delay > 0 ? `${delay} frames late` : 'at once'),
};
