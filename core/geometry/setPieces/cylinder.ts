import { arc, lathe } from './lathe';
import { bevel, setPiece, size } from './kind';

/** Upright, with rounded edges where its bevel is above zero. */
export const cylinder = setPiece(
  'cylinder',
  { radius: size(), height: size(), bevel: bevel() },
  {
    title: 'Cylinder',
    proportions: (part) => ({ radius: part(0.5), height: part(0.2), bevel: part(0.01) }),
    mesh({ radius, height, bevel: wished }) {
      const bevel = Math.min(wished, radius, height / 2);
      return lathe([
        [[0, 0, 0, -1], [radius - bevel, 0, 0, -1]],
        ...arc(radius - bevel, bevel, bevel, -Math.PI / 2, 0),
        [[radius, bevel, 1, 0], [radius, height - bevel, 1, 0]],
        ...arc(radius - bevel, height - bevel, bevel, 0, Math.PI / 2),
        [[radius - bevel, height, 0, 1], [0, height, 0, 1]],
      ]); // prettier-ignore
    },
  },
);
