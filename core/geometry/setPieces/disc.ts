import { lathe } from './lathe';
import { bevel, setPiece, size } from './kind';

/** A round sheet that lies flat, with a hole where its inner radius is above zero. */
export const disc = setPiece(
  'disc',
  { radius: size(), hole: bevel() },
  {
    title: 'Disc',
    proportions: (part) => ({ radius: part(1), hole: 0 }),
    mesh: ({ radius, hole }) => lathe([[[radius, 0, 0, 1], [Math.min(hole, radius * 0.999), 0, 0, 1]]]), // prettier-ignore
  },
);
