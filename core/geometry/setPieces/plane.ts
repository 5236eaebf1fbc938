import { Grids } from './grids';
import { setPiece, size } from './kind';

/** A sheet that lies flat. */
export const plane = setPiece(
  'plane',
  { width: size(), depth: size() },
  {
    title: 'Plane',
    proportions: (part) => ({ width: part(3), depth: part(3) }),
    mesh({ width, depth }) {
      const made = new Grids();
      made.add(1, 1, (u, v) => [(u - 0.5) * width, 0, (v - 0.5) * depth, 0, 1, 0]);
      return made.finish();
    },
  },
);
