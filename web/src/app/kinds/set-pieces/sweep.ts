import type { PieceView } from './view';

export const sweep: PieceView = {
  words: 'backdrop cove infinity studio',
  under: true,
  fields: (own) => [own('width', 'Width'), own('depth', 'Depth'), own('height', 'Height'), own('radius', 'Curve')],
};
