import { lathe } from './lathe';
import { setPiece, size } from './kind';

/** A pipe that stands upright. */
export const tube = setPiece(
  'tube',
  { radius: size(), wall: size(), height: size() },
  {
    title: 'Tube',
    proportions: (part) => ({ radius: part(0.4), wall: part(0.05), height: part(0.6) }),
    mesh({ radius, wall, height }) {
      const hole = Math.max(radius * 0.001, radius - wall);
      return lathe([
        [[hole, 0, 0, -1], [radius, 0, 0, -1]],
        [[radius, 0, 1, 0], [radius, height, 1, 0]],
        [[radius, height, 0, 1], [hole, height, 0, 1]],
        [[hole, height, -1, 0], [hole, 0, -1, 0]],
      ]); // prettier-ignore
    },
  },
);
