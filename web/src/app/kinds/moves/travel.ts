import type { MoveOf, MoveView } from './view';

export const travel: MoveView<MoveOf<'travel'>> = {
  does: 'From one place to another',
  needs: 'Select a part, camera or light',
  words: 'slide move fly push pull glide',
  drawing: 'M3 13 30 3m-6-1 6 1-3 5',
  fields: ({ own }) => [own('from', 'From'), own('to', 'To'), own('carryTarget', 'Aim along')],
  says: ({ from, to }) => `${Math.round(Math.hypot(...to.map((v, k) => v - from[k]!)))} mm`,
};
